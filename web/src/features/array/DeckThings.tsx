import type { ArrayPicture } from "../../api/client";
import { spread } from "../../kit/chart/spread";
import { useSay } from "../../kit/preferences";

import { cornersPath, type DeckThing, type Plan, toScreen } from "./deckGeometry";

const LABEL_ROW = 16;
const LONG = 8; // screen units, before a spar is more than its foot

/** What stands in the sun, from above: a spar from foot to top, a box by its roof, a sail by its foot. */
export function ThingMark({ thing, plan, chosen }: { thing: DeckThing; plan: Plan; chosen: boolean }) {
  const foot = toScreen(plan, thing.foot.x_m, thing.foot.y_m);
  const tip = toScreen(plan, thing.tip.x_m, thing.tip.y_m);
  const edge = chosen ? "var(--sun)" : "var(--mist)";
  const faint = thing.stands ? 1 : 0.3;
  const [first] = thing.faces;
  if (thing.shape !== "spar" && first)
    return (
      <path
        d={cornersPath(plan, first)}
        fill="var(--ink)"
        fillOpacity={(thing.shape === "sail" ? 0.18 : 0.32) * faint}
        stroke={chosen ? "var(--sun)" : "var(--ink)"}
        strokeOpacity={faint}
        strokeWidth={chosen ? 3 : 1.2}
      />
    );
  return (
    <g opacity={faint}>
      {Math.hypot(tip.x - foot.x, tip.y - foot.y) > LONG && (
        <line
          x1={foot.x}
          y1={foot.y}
          x2={tip.x}
          y2={tip.y}
          stroke="var(--ink)"
          strokeWidth={Math.max(2 * thing.radius_m * plan.scale, 2)}
          strokeLinecap="round"
        />
      )}
      <circle cx={foot.x} cy={foot.y} r="12" fill="transparent" />
      <circle
        cx={foot.x}
        cy={foot.y}
        r={Math.max(thing.radius_m * plan.scale, 4)}
        fill="var(--ink)"
        stroke={edge}
        strokeWidth={chosen ? 3 : 1}
      />
    </g>
  );
}

/** Names and heights of what stands, in a column beside the boat. */
export function ThingLabels(props: {
  picture: ArrayPicture;
  plan: Plan;
  shift: (id: string) => string | undefined;
}) {
  const { picture, plan, shift } = props;
  const say = useSay();
  const reach = (spots: { x_m: number; y_m: number }[]) =>
    spots.map((spot) => toScreen(plan, spot.x_m, spot.y_m).x);
  const edge = Math.max(
    ...reach(picture.outlines.flat()),
    ...reach(picture.panels.flatMap((panel) => panel.corners)),
  );
  const aside = Math.min(edge + 12, plan.middle.x + plan.radius * 0.62);
  const labels = spread(
    picture.things
      .filter((thing) => thing.stands)
      .map((item) => ({ item, at: toScreen(plan, item.foot.x_m, item.foot.y_m).y })),
    LABEL_ROW,
    plan.middle.y - plan.radius,
    plan.middle.y + plan.radius,
  );
  return labels.map(({ item: thing, at, y }) => {
    const foot = toScreen(plan, thing.foot.x_m, thing.foot.y_m);
    return (
      <g key={thing.id} transform={shift(thing.id)} pointerEvents="none">
        <line x1={foot.x} y1={at} x2={aside - 4} y2={y} stroke="var(--muted)" strokeWidth="0.8" />
        <text x={aside} y={y + 4} paintOrder="stroke" className="fill-ink stroke-mist stroke-3 text-[12.5px]">
          {thing.name}, {say("length_m", thing.tip.z_m)}
        </text>
      </g>
    );
  });
}
