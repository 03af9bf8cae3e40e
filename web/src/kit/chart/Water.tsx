/** The water of a picture on the plane, and where north is on it. */

export const Water = ({ width }: { width: number }) => (
  <rect
    width={width}
    height="100%"
    rx="6"
    fill="var(--water-soft, rgb(31 111 120 / 0.10))"
    className="stroke-edge"
  />
);

export const NorthUp = () => (
  <>
    <path d="M28,52V22m-6,9l6,-11l6,11" className="fill-none stroke-ink stroke-[2]" />
    <text className="chart-label" x={28} y={66} textAnchor="middle" fill="var(--ink)">
      N
    </text>
  </>
);
