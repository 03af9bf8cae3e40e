export const READOUT_LINE = 19;

/** What a chart reads at one place: a dark sheet of short lines, the first one heavier. */
export function Readout({ x, y, width, lines }: { x: number; y: number; width: number; lines: string[] }) {
  return (
    <g pointerEvents="none" transform={`translate(${x} ${y})`}>
      <rect width={width} height={lines.length * READOUT_LINE + 12} rx="4" fill="var(--ink)" />
      {lines.map((text, i) => (
        <text
          key={text}
          x="10"
          y={20 + i * READOUT_LINE}
          fontWeight={i === 0 ? 700 : 400}
          className="fill-mist text-[13px]"
        >
          {text}
        </text>
      ))}
    </g>
  );
}
