import type { HingeAdvice } from "../../api/client";
import { Handle } from "../../kit/chart/Handle";
import { Level, Upright } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { clockText } from "../../kit/units";

const HEIGHT = 190;
const LEFT = 40;
const FOOT = 20;
const TOP = 6;
const SHADES = 0.92;

interface Props {
  hinge: HingeAdvice;
  step: number;
  onStep: (step: number) => void;
}

/** Every angle of the hinge by the hour: the fuller the colour, the more watts; the line is the best angle. */
export function TiltMap({ hinge, step, onStep }: Props) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const lit = hinge.best_deg.map((best, i) => (best == null ? -1 : i)).filter((i) => i >= 0);
  const [first, last] = [lit[0] ?? 0, lit[lit.length - 1] ?? hinge.best_deg.length - 1];
  const steps = last - first + 1;
  const x = (i: number) => LEFT + ((i - first) / steps) * (width - LEFT - 8);
  const ground = HEIGHT - FOOT;
  const [least, most] = [hinge.tilts_deg[0] ?? 0, hinge.tilts_deg[hinge.tilts_deg.length - 1] ?? 1];
  const y = (tilt: number) => ground - ((tilt - least) / (most - least || 1)) * (ground - TOP - 8) - 4;
  const top = Math.max(...hinge.power_w.flat(), 1);
  const edges = hinge.tilts_deg.map((tilt, a) => {
    const below = hinge.tilts_deg[a - 1];
    const above = hinge.tilts_deg[a + 1];
    return [
      below === undefined ? ground : y((tilt + below) / 2),
      above === undefined ? TOP : y((tilt + above) / 2),
    ] as const;
  });
  const hours = hinge.clock_min
    .map((minutes, i) => ({ minutes, i }))
    .filter(({ minutes, i }) => i >= first && i <= last && minutes % 60 < 10)
    .filter((_, i) => i % (width < 460 ? 4 : 2) === 0);
  const bound = (i: number) => Math.min(Math.max(i, first), last);
  const moved = (px: number) => onStep(bound(Math.floor(first + ((px - LEFT) / (width - LEFT - 8)) * steps)));
  const best = hinge.best_deg
    .map((tilt, i) => (tilt == null ? null : `${(x(i) + x(i + 1)) / 2},${y(tilt).toFixed(1)}`))
    .filter(Boolean)
    .join(" ");
  return (
    <div ref={box} className="h-[190px] flex-none">
      {width > 0 && (
        <svg width={width} height={HEIGHT} role="group" aria-label="Watts by angle and hour" data-tilt-map>
          {hinge.power_w.map((row, a) => (
            <g key={hinge.tilts_deg[a]}>
              {row.slice(first, last + 1).map((watts, k) => {
                const [low, high] = edges[a] as readonly [number, number];
                return (
                  <rect
                    key={k}
                    x={x(first + k)}
                    y={high}
                    width={x(1) - x(0) + 0.5}
                    height={low - high}
                    fill="var(--sun)"
                    fillOpacity={(watts / top) * SHADES}
                  />
                );
              })}
            </g>
          ))}
          {hinge.tilts_deg
            .filter((tilt) => tilt % 20 === 0 || (tilt === most && tilt % 20 > 9))
            .map((tilt) => (
              <text
                key={tilt}
                x={LEFT - 6}
                y={y(tilt) + 4}
                textAnchor="end"
                className="fill-muted text-[12px]"
              >
                {Math.round(tilt)}°
              </text>
            ))}
          <Level y={y(hinge.tilt_deg)} x1={LEFT} x2={width - 8} stroke="var(--ink)" strokeDasharray="5 4" />
          <text
            x={width - 12}
            y={y(hinge.tilt_deg) - 4}
            textAnchor="end"
            paintOrder="stroke"
            className="fill-ink stroke-mist stroke-3 text-[12px]"
          >
            as it stands
          </text>
          <polyline
            points={best}
            strokeLinejoin="round"
            className="fill-none stroke-water-text stroke-[2.6]"
          />
          <Level y={ground} x1={LEFT} x2={width - 8} stroke="var(--ink)" strokeWidth="1.5" />
          {hours.map(({ minutes, i }) => (
            <text key={minutes} x={x(i)} y={HEIGHT - 5} fontSize="12" textAnchor="middle" fill="var(--muted)">
              {clockText(minutes).slice(0, 2)}
            </text>
          ))}
          <Handle
            label="Hour looked at"
            most={1439}
            now={Math.round(hinge.clock_min[step] ?? 0)}
            text={clockText(hinge.clock_min[step] ?? 0)}
            onDrag={moved}
            onStep={(by) => onStep(bound(step + by))}
          >
            <rect x={LEFT} y={TOP} width={width - LEFT - 8} height={ground - TOP} fill="transparent" />
            <Upright x={x(step + 0.5)} y1={TOP} y2={ground} stroke="var(--ink)" strokeWidth="1.6" />
          </Handle>
        </svg>
      )}
    </div>
  );
}
