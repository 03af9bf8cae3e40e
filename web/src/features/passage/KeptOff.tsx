import { useId } from "react";
import type { PassagePicture } from "../../api/client";
import { type Frame, pixelsOf, spotAt } from "../../kit/chart/plane";
import { useDesign } from "../../kit/document";
import { AddPart, Fields, RemovePart } from "../../kit/ui/Field";

const LIST = "/passage/keep_off";

/** What she keeps off, each by its bearing and distance from where she leaves. */
export function KeptOffFields() {
  const { design } = useDesign();
  return (
    <>
      {(design.passage?.keep_off ?? []).map((item, index) => (
        <div key={item.id} className="mb-2 border-b border-hairline pb-1" data-keep-off={item.id}>
          <Fields at={`${LIST}/${index}`} of="name bearing_deg distance_m clear_m" />
          <RemovePart from={LIST} id={item.id} words={`remove ${item.name}`} />
        </div>
      ))}
      <AddPart to={LIST} words="something to keep off" />
    </>
  );
}

/** The same on the chart: hatched as far as she keeps clear. */
export function KeptOffOnChart({ items, frame }: { items: PassagePicture["keep_off"]; frame: Frame }) {
  const hatch = useId();
  return (
    <g>
      <pattern id={hatch} width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0,0V6" className="stroke-alarm stroke-[1.4]" />
      </pattern>
      {items.map((item) => {
        const [x, y] = spotAt(frame, [item.east_m, item.north_m]);
        return (
          <g key={item.id} data-kept-off={item.clear}>
            <circle
              cx={x}
              cy={y}
              r={Math.max(pixelsOf(frame, item.clear_m), 5)}
              fill={`url(#${hatch})`}
              className={item.clear ? "stroke-alarm stroke-[1]" : "stroke-alarm stroke-[2.4]"}
            />
            <text className="chart-label halo" x={x} y={y - 8} textAnchor="middle" fill="var(--alarm)">
              {item.clear ? "" : "▲ "}
              {item.name}
            </text>
          </g>
        );
      })}
    </g>
  );
}
