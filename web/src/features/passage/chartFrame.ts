/** Lengths, courses and reaches on the plane that a passage is drawn on. */
import { type Frame, type Spot, spotAt } from "../../kit/chart/plane";

const CORNERS = 72; // of the line round what lies within reach

/** Length [m] and course [deg] from one dragged spot to another, as the picture shows them. */
export function between([e0, n0]: Spot, [e1, n1]: Spot): [number, number] {
  const length = Math.hypot(e1 - e0, n1 - n0);
  const course = (Math.atan2(e1 - e0, n1 - n0) * 180) / Math.PI;
  return [Math.round(length), Math.round((course + 360) % 360) % 360];
}

/** All places from which two straight legs, here to there and on to where she is in, add up to a reach. */
export function withinReach(frame: Frame, here: Spot, end: Spot, reach_m: number): string | null {
  const apart = Math.hypot(end[0] - here[0], end[1] - here[1]);
  if (reach_m <= apart || reach_m <= 0) return null;
  const [long, wide] = [reach_m / 2, Math.sqrt(reach_m * reach_m - apart * apart) / 2];
  const turned = Math.atan2(end[1] - here[1], end[0] - here[0]);
  const middle: Spot = [(here[0] + end[0]) / 2, (here[1] + end[1]) / 2];
  const spots = Array.from({ length: CORNERS }, (_, k) => {
    const round = (2 * Math.PI * k) / CORNERS;
    const [along, across] = [long * Math.cos(round), wide * Math.sin(round)];
    return spotAt(frame, [
      middle[0] + along * Math.cos(turned) - across * Math.sin(turned),
      middle[1] + along * Math.sin(turned) + across * Math.cos(turned),
    ]);
  });
  return `M${spots.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join("L")}Z`;
}
