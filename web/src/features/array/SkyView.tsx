import type { ReactNode } from "react";
import type { ArrayPicture } from "../../api/client";
import { Level } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { useSay } from "../../kit/preferences";

const SEEN = 0.015; // of shade, before it is drawn
const BESIDE = 72; // px: room for the names of the sides
const DASHES = ["", "6 4", "2 4"];
const RAD = Math.PI / 180;

interface Props {
  picture: ArrayPicture;
  onSee: (groupId: string, number: number) => void;
}

type At = (bearing: number, up: number) => { x: number; y: number };

/** The ring between the horizon and the skyline. */
function skylinePath(bearings: number[], heights: number[], spot: At): string {
  const ring = (up: (index: number) => number) =>
    `M${bearings
      .map((bearing, index) => spot(bearing, up(index)))
      .map((at) => `${at.x.toFixed(1)} ${at.y.toFixed(1)}`)
      .join("L")}Z`;
  return ring(() => 0) + ring((index) => heights[index] ?? 0);
}

/** The sky over one panel, bow up: what is in the way of which part, and the sun's paths in three months. */
export function SkyView({ picture, onSee }: Props) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const say = useSay();
  const dome = picture.dome;
  const name = (panel: ArrayPicture["panels"][number]) =>
    `${picture.places.find((place) => place.id === panel.place_id)?.name ?? ""}, panel ${panel.number + 1}`;
  if (!dome)
    return (
      <p className="m-auto max-w-[44ch] text-center text-muted">
        No panel has a position yet. Give a place its middle and height on the left to see the sky from it.
      </p>
    );
  const radius = Math.max(Math.min(width / 2 - BESIDE, height / 2 - 30, 235), 60);
  const middle = { x: Math.max(width / 2, radius + BESIDE), y: radius + 26 };
  const spot = (bearing: number, up: number) => ({
    x: middle.x + Math.sin(bearing * RAD) * radius * (1 - up / 90),
    y: middle.y - Math.cos(bearing * RAD) * radius * (1 - up / 90),
  });
  const step = (dome.bearings_deg[1] ?? 3) - (dome.bearings_deg[0] ?? 0);
  const fields: ReactNode[] = [];
  dome.shade.forEach((column, i) => {
    column.forEach((share, j) => {
      const [bearing, up] = [dome.bearings_deg[i] ?? 0, dome.heights_deg[j] ?? 0];
      if (share < SEEN || up >= 90) return;
      const low = Math.max(up - step / 2, 0);
      const corners = [
        spot(bearing - step / 2, low),
        spot(bearing + step / 2, low),
        spot(bearing + step / 2, up + step / 2),
        spot(bearing - step / 2, up + step / 2),
      ];
      fields.push(
        <path
          key={`${i}/${j}`}
          d={`M${corners.map((c) => `${c.x.toFixed(1)} ${c.y.toFixed(1)}`).join("L")}Z`}
          fill="var(--ink)"
          fillOpacity={Math.min(0.15 + share * 0.75, 0.85)}
        />,
      );
    });
  });
  const view = say("fraction", dome.sky_view_frac);
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <label className="flex items-center gap-2">
          Seen from
          <select
            className="h-[28px] rounded-[5px] border border-edge bg-field px-1 text-ink"
            value={`${dome.group_id}/${dome.number}`}
            onChange={(event) => {
              const [group, number] = event.target.value.split("/") as [string, string];
              onSee(group, Number(number));
            }}
          >
            {picture.panels.map((panel) => (
              <option key={`${panel.group_id}/${panel.number}`} value={`${panel.group_id}/${panel.number}`}>
                {name(panel)}
              </option>
            ))}
          </select>
        </label>
        <span>
          <b>{view}</b> of the sky's own light is left
        </span>
      </div>
      <div ref={box} className="relative min-h-[360px] flex-1">
        {width > 0 && (
          <svg
            className="absolute"
            width={width}
            height={height}
            role="img"
            aria-label={`The sky over the panel: ${view} of its light is left`}
            data-dome
          >
            <circle cx={middle.x} cy={middle.y} r={radius} fill="var(--water-soft)" stroke="var(--ink)" />
            {[30, 60].map((up) => (
              <g key={up}>
                <circle
                  cx={middle.x}
                  cy={middle.y}
                  r={radius * (1 - up / 90)}
                  className="fill-none stroke-field"
                />
                <text
                  x={middle.x + 3}
                  y={middle.y - radius * (1 - up / 90) - 3}
                  className="fill-muted text-[12px]"
                >
                  {up}°
                </text>
              </g>
            ))}
            {dome.skyline_deg.length > 0 && (
              <path
                data-skyline
                d={skylinePath(dome.bearings_deg, dome.skyline_deg, spot)}
                fillRule="evenodd"
                className="fill-bank [fill-opacity:0.55]"
              />
            )}
            {fields}
            {dome.paths.map((path, index) => (
              <g key={path.label}>
                <polyline
                  points={path.points
                    .map((sun) => spot(sun.azimuth_deg, sun.elevation_deg))
                    .map((c) => `${c.x.toFixed(1)},${c.y.toFixed(1)}`)
                    .join(" ")}
                  strokeDasharray={DASHES[index]}
                  className="fill-none stroke-sun-edge stroke-[2.4]"
                />
              </g>
            ))}
            {(["bow", "starboard", "stern", "port"] as const).map((side, index) => {
              const at = spot(index * 90, -6);
              return (
                <text
                  className="chart-text"
                  key={side}
                  x={at.x}
                  y={at.y + 4}
                  textAnchor={index === 1 ? "start" : index === 3 ? "end" : "middle"}
                >
                  {side}
                </text>
              );
            })}
          </svg>
        )}
      </div>
      <p className="m-0 mb-1 flex flex-wrap gap-x-4 text-[13px] text-muted">
        <span>
          Dark: shaded{dome.skyline_deg.length > 0 ? "; green: the shore" : ""}. The sun's path on the 21st of
        </span>
        {dome.paths.map((path, index) => (
          <span key={path.label} className="flex items-center gap-1">
            <svg width="26" height="8" aria-hidden="true">
              <Level
                y={4}
                x1="0"
                x2="26"
                strokeDasharray={DASHES[index]}
                className="stroke-sun-edge stroke-[2.4]"
              />
            </svg>
            {path.label}
          </span>
        ))}
        {picture.heading_deg === null && <span>heading open: drawn as if heading north</span>}
      </p>
    </>
  );
}
