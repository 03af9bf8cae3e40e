import { useMemo } from "react";
import type { ArrayPicture } from "../../api/client";
import { Handle } from "../../kit/chart/Handle";
import { Level } from "../../kit/chart/lines";
import { clockText } from "../../kit/units";

const FOOT = 20;
const EDGE = 12;

interface Props {
  picture: ArrayPicture;
  index: number;
  width: number;
  height: number;
  onMove: (index: number) => void;
}

/** The sun's height over the day; the sun on it is dragged, or moved with the arrow keys. */
export function SunArc({ picture, index, width, height, onMove }: Props) {
  const track = picture.sun;
  const noon = Math.round(picture.noon_index);
  const day = useMemo(() => {
    const upAt = (i: number) => (track[i]?.elevation_deg ?? -1) > 0;
    if (!upAt(noon)) return [0, track.length - 1] as const;
    let [from, to] = [noon, noon];
    while (upAt(from - 1)) from--;
    while (upAt(to + 1)) to++;
    return [Math.max(from - 1, 0), Math.min(to + 1, track.length - 1)] as const;
  }, [track, noon]);
  const [first, last] = day;
  const x = (i: number) => EDGE + ((i - first) / (last - first)) * (width - 2 * EDGE);
  const ground = height - FOOT;
  const y = (up: number) => ground - (Math.max(up, -1) / 90) * (ground - 11);
  const at = (px: number) =>
    Math.min(Math.max(first + ((px - EDGE) / (width - 2 * EDGE)) * (last - first), first), last);
  const low = Math.min(Math.floor(index), track.length - 2);
  const share = index - low;
  const up = (track[low]?.elevation_deg ?? 0) * (1 - share) + (track[low + 1]?.elevation_deg ?? 0) * share;
  const hours = picture.clock_min
    .map((minutes, i) => ({ minutes: Math.round(minutes), i }))
    .filter(({ minutes, i }) => i >= first && i <= last && isOnTheHour(minutes))
    .filter((_, i) => i % (width < 460 ? 4 : 2) === 0);
  const clock = picture.clock_min[Math.round(index)] ?? 0;
  return (
    <svg width={width} height={height} role="group" aria-label="The sun over the day">
      <polyline
        points={track
          .slice(first, last + 1)
          .map((sun, i) => `${x(first + i).toFixed(1)},${y(sun.elevation_deg).toFixed(1)}`)
          .join(" ")}
        className="fill-none stroke-sun stroke-2"
      />
      <Level y={ground} x1="0" x2={width} stroke="var(--ink)" strokeWidth="1.5" />
      {hours.map(({ minutes, i }) => (
        <text key={minutes} x={x(i)} y={height - 5} fontSize="12" textAnchor="middle" fill="var(--muted)">
          {clockText(minutes).slice(0, 2)}
        </text>
      ))}
      <Handle
        label="Time of day"
        most={1439}
        now={Math.round(clock)}
        text={clockText(clock)}
        className="cursor-grab"
        onDrag={(px) => onMove(at(px))}
        onStep={(by) => onMove(Math.min(Math.max(Math.round(index) + by, first), last))}
      >
        <circle cx={x(index)} cy={y(up)} r="20" fill="transparent" />
        <circle cx={x(index)} cy={y(up)} r="9" fill="var(--sun)" stroke="var(--ink)" strokeWidth="1.4" />
      </Handle>
    </svg>
  );
}

const isOnTheHour = (minutes: number) => minutes % 60 < 10;
