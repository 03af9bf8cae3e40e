import { Handle } from "../../kit/chart/Handle";
import { useSay, useUnits } from "../../kit/preferences";
import { unitOf } from "../../kit/units";

const DRAG_STEP = 0.05; // of the unit that is read
const KEY_STEP = 0.1;

interface Props {
  speed: number; // as the mark stands
  planned: number; // as set
  fastest: number;
  size: number;
  at: (px: number) => number; // the speed at a place of the chart
  onPlanSpeed: (speedMps: number) => void;
}

/** The planned speed as a diamond to drag. */
export function PlanMark({ speed, planned, fastest, size, at, onPlanSpeed }: Props) {
  const say = useSay();
  const [, unit] = unitOf("speed_mps", useUnits());
  const snapped = (value: number) => Math.round(value / unit / DRAG_STEP) * DRAG_STEP * unit;
  return (
    <Handle
      label="Planned speed"
      most={Number((fastest / unit).toFixed(1))}
      now={Number((speed / unit).toFixed(1))}
      text={say("speed_mps", speed)}
      onDrag={(px) => onPlanSpeed(snapped(at(px)))}
      onStep={(by) => onPlanSpeed(Math.max(planned + by * KEY_STEP * unit, KEY_STEP * unit))}
    >
      <rect
        x={-size / 2}
        y={-size / 2}
        width={size}
        height={size}
        transform="rotate(45)"
        className="fill-field stroke-water stroke-3"
      />
    </Handle>
  );
}
