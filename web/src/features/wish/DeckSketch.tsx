import type { WishPicture, WishPoint } from "../../api/client";

interface Props {
  picture: WishPicture;
  deck: WishPoint["deck"];
  label: string;
}

const PAD = 0.25; // metres around what is drawn
type Corners = readonly { x_m: number; y_m: number }[];

const path = (corners: Corners) => `M${corners.map((c) => `${c.x_m} ${-c.y_m}`).join("L")}Z`;

/** The boat from above, bow up, with the panels of a point; where they might go as outlines. */
export function DeckSketch({ picture, deck, label }: Props) {
  const near = picture.places.filter((place) => Math.abs(place.corners[0]?.x_m ?? 0) < 40);
  const all: Corners = [
    ...picture.outlines.flat(),
    ...near.flatMap((place) => place.corners),
    ...deck.flatMap((panel) => panel.corners),
  ];
  const xs = all.map((c) => c.x_m);
  const ys = all.map((c) => -c.y_m);
  const [left, top] = [Math.min(...xs) - PAD, Math.min(...ys) - PAD];
  const [wide, high] = [Math.max(...xs) + PAD - left, Math.max(...ys) + PAD - top];
  const fine = high / 260;
  return (
    <svg
      viewBox={`${left} ${top} ${wide} ${high}`}
      className="h-full max-h-full w-full"
      preserveAspectRatio="xMidYMid meet"
      role="img"
      aria-label={label}
    >
      {picture.outlines.map((outline, k) => (
        <path key={k} d={path(outline)} fill="var(--field)" stroke="var(--ink)" strokeWidth={1.4 * fine} />
      ))}
      {near.map((place) => (
        <path
          key={place.id}
          d={path(place.corners)}
          fill="none"
          stroke="var(--muted)"
          strokeWidth={fine}
          strokeDasharray={place.own ? undefined : `${4 * fine} ${3 * fine}`}
        />
      ))}
      {deck.map((panel, k) => (
        <path
          key={k}
          d={path(panel.corners)}
          fill={panel.own ? "var(--water)" : "var(--sun)"}
          stroke="var(--ink)"
          strokeWidth={1.1 * fine}
        />
      ))}
      {picture.things.map((thing, k) => (
        <g key={k} stroke="var(--ink)" strokeWidth={1.6 * fine} fill="var(--ink)">
          <line x1={thing.at.x_m} y1={-thing.at.y_m} x2={thing.to.x_m} y2={-thing.to.y_m} />
          <circle cx={thing.at.x_m} cy={-thing.at.y_m} r={2.6 * fine} />
        </g>
      ))}
    </svg>
  );
}
