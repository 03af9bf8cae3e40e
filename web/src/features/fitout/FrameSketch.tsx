import type { FitoutPicture } from "../../api/client";
import { useSize } from "../../kit/chart/useSize";
import { useUnits } from "../../kit/preferences";
import { fieldText } from "../../kit/units";

const HIGH = 170;
const BAR = 15;

/** The frame from above with its feet, and the lengths of stock with their pieces. */
export function FrameSketch({ frame }: { frame: FitoutPicture["frames"][number] }) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const units = useUnits();
  const long = Math.max(frame.width_m ?? 1, frame.length_m ?? 1);
  const short = Math.min(frame.width_m ?? 1, frame.length_m ?? 1);
  const scale = Math.min((width - 70) / long, (HIGH - 46) / short);
  const [w, h] = [long * scale, short * scale];
  const [x0, y0] = [40, 16];
  const bars = Array.from({ length: frame.crossbars }, (_, i) => x0 + ((i + 1) * w) / (frame.crossbars + 1));
  const half = Math.max(Math.floor(frame.feet / 2), 1);
  const feet = Array.from({ length: half }, (_, i) => x0 + (half === 1 ? w / 2 : (i * w) / (half - 1)));
  const stock =
    (width - 60) /
    Math.max(frame.stock_m, ...frame.bars.map((bar) => bar.reduce((sum, one) => sum + one, 0)));
  const say = (m: number) => fieldText(Number(m.toFixed(2)), "length_m", units);
  return (
    <div ref={box}>
      {width > 0 && (
        <svg
          width={width}
          height={HIGH + frame.bars.length * (BAR + 8) + 6}
          role="img"
          aria-label={`Frame of ${say(long)} by ${say(short)} ${units.length} on ${frame.feet} feet, cut from ${frame.bars.length} lengths of stock`}
        >
          <rect
            x={x0}
            y={y0}
            width={w}
            height={h}
            fill="var(--dog-far)"
            stroke="var(--ink)"
            strokeWidth={3}
          />
          {bars.map((x) => (
            <line key={x} x1={x} x2={x} y1={y0} y2={y0 + h} stroke="var(--ink)" strokeWidth={3} />
          ))}
          {feet.flatMap((x) =>
            [y0, y0 + h].map((y) => (
              <circle
                key={`${x}/${y}`}
                cx={x}
                cy={y}
                r={5.5}
                fill="var(--mist)"
                stroke="var(--water-text)"
                strokeWidth={2.5}
              />
            )),
          )}
          <text x={x0 + w / 2} y={y0 + h + 20} textAnchor="middle" fontSize={12.5} fill="var(--muted)">
            {say(long)} {units.length}
          </text>
          <text x={x0 - 8} y={y0 + h / 2 + 4} textAnchor="end" fontSize={12.5} fill="var(--muted)">
            {say(short)}
          </text>
          {frame.bars.map((bar, row) => {
            let x = 40;
            const y = HIGH + row * (BAR + 8);
            return (
              <g key={row}>
                <text x={34} y={y + 12} textAnchor="end" fontSize={12.5} fill="var(--muted)">
                  {row + 1}
                </text>
                <rect
                  x={40}
                  y={y}
                  width={frame.stock_m * stock}
                  height={BAR}
                  fill="none"
                  stroke="var(--edge)"
                  strokeDasharray="3 2"
                />
                {bar.map((piece, i) => {
                  const at = x;
                  x += piece * stock;
                  return (
                    <g key={i}>
                      <rect
                        x={at}
                        y={y}
                        width={Math.max(piece * stock - 1.5, 1)}
                        height={BAR}
                        fill="var(--water-soft)"
                        stroke="var(--water-text)"
                      />
                      {piece * stock > 34 && (
                        <text
                          x={at + (piece * stock) / 2}
                          y={y + 12}
                          textAnchor="middle"
                          fontSize={12.5}
                          fill="var(--ink)"
                        >
                          {say(piece)}
                        </text>
                      )}
                    </g>
                  );
                })}
              </g>
            );
          })}
        </svg>
      )}
    </div>
  );
}
