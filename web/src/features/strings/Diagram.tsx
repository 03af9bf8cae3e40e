import { useRef, useState } from "react";
import type { StringsPicture } from "../../api/client";
import { wrapped } from "../../kit/chart/wrapped";
import { useDesign } from "../../kit/document";
import { keepBlob } from "../../kit/saveFile";
import { LinkButton } from "../../kit/ui/LinkButton";
import { WiringFiles } from "./PartsList";

type Line = StringsPicture["lines"][number];
type Bank = StringsPicture["banks"][number];

const ROW = 104;
const TOP = 8;
const BOX = 60;
const NAME = 13; // sizes that are no smaller than 12.5 px on the smallest window
const SMALL = 12.8;
const LETTER = 7.4; // of a name, wide
const LINE = 15;
const COLUMNS = { panels: 0, breaker: 148, controller: 226, bus: 384, bank: 436, users: 556 };
const WIDTH = 660;
const [ZOOM_STEP, MOST_ZOOM] = [1.5, 3];
const RIGHT: Record<string, string> = { motor: "var(--water-soft)", house: "var(--field)" };

/** The whole installation in one line each, drawn from the design: sizes, breakers and fuses on the wires. */
export function Diagram({ picture }: { picture: StringsPicture }) {
  const { design } = useDesign();
  const drawing = useRef<SVGSVGElement>(null);
  const [zoom, setZoom] = useState(1);
  const banks = picture.banks;
  const right = [
    ...picture.consumers.map((user) => ({ ...user, key: `${user.name}/${user.bank_id}` })),
    ...picture.chargers.map((item) => ({ ...item, key: item.id, cable: item.wire })),
  ];
  const rows = Math.max(picture.lines.length, right.length, banks.length * 2, 1);
  const height = rows * ROW + 2 * TOP;
  const rowY = (index: number, of: number) => TOP + ((index + 0.5) * rows * ROW) / Math.max(of, 1);
  const firstOf = (line: Line) =>
    picture.lines.findIndex((other) => other.controller_id === line.controller_id);
  const bankY = (id: string | null | undefined) => {
    const index = banks.findIndex((bank) => bank.id === id);
    return index < 0 ? null : rowY(index, banks.length);
  };
  function save() {
    const svg = drawing.current;
    if (!svg) return;
    const copy = svg.cloneNode(true) as SVGSVGElement;
    const style = getComputedStyle(document.documentElement);
    const named = new XMLSerializer()
      .serializeToString(copy)
      .replace(/var\((--[a-z-]+)\)/g, (_, name) => style.getPropertyValue(name).trim());
    keepBlob(new Blob([named], { type: "image/svg+xml" }), `${design.name} wiring.svg`);
  }
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="One-line diagram">
        <svg
          ref={drawing}
          xmlns="http://www.w3.org/2000/svg"
          viewBox={`0 0 ${WIDTH} ${height}`}
          width={`${100 * zoom}%`}
          style={{ minWidth: 640, maxHeight: zoom * Math.max(height, 300) }}
          fontFamily="Atkinson Hyperlegible Next Variable, system-ui, sans-serif"
          role="img"
          aria-label={`Wiring of ${design.name}: ${picture.lines.map((line) => `${line.panels}, ${line.arrangement}, to ${line.controller}`).join("; ")}`}
          data-diagram
        >
          {picture.lines.map((line, i) => (
            <PanelLine
              key={line.key}
              line={line}
              shared={firstOf(line) < i ? rowY(firstOf(line), picture.lines.length) : null}
              y={rowY(i, picture.lines.length)}
              bank={bankY(line.bank_id)}
              busX={
                COLUMNS.bus +
                12 *
                  Math.max(
                    banks.findIndex((bank) => bank.id === line.bank_id),
                    0,
                  )
              }
            />
          ))}
          {banks.map((bank, i) => (
            <BankPart key={bank.id} bank={bank} index={i} y={rowY(i, banks.length)} />
          ))}
          {picture.converters.map((joint, i) => {
            const [a, b] = [bankY(joint.from_bank_id), bankY(joint.to_bank_id)];
            if (a === null || b === null) return null;
            const x = COLUMNS.bank + 50 + 8 * i;
            return (
              <line
                key={joint.id}
                x1={x}
                x2={x}
                y1={Math.min(a, b) + BOX / 2}
                y2={Math.max(a, b) - BOX / 2}
                stroke="var(--ink)"
                strokeWidth="1.6"
              />
            );
          })}
          {picture.converters.map((joint, i) => {
            const [a, b] = [bankY(joint.from_bank_id), bankY(joint.to_bank_id)];
            if (a === null || b === null) return null;
            const y = (a + b) / 2 + 58 * (i - (picture.converters.length - 1) / 2);
            return (
              <g key={joint.id} data-converter={joint.id}>
                <rect
                  x={COLUMNS.bank - 2}
                  y={y - 26}
                  width="104"
                  height="52"
                  rx="4"
                  fill="var(--field)"
                  stroke="var(--ink)"
                />
                {[
                  "converter",
                  `${Math.round(joint.watts).toLocaleString("en-GB")} W`,
                  `${joint.in_wire.size_mm2} → ${joint.out_wire.size_mm2} mm²`,
                ].map((line, row) => (
                  <text
                    key={line}
                    x={COLUMNS.bank + 50}
                    y={y - 10 + LINE * row}
                    fontSize={SMALL}
                    textAnchor="middle"
                    fill="var(--ink)"
                  >
                    {line}
                  </text>
                ))}
              </g>
            );
          })}
          {right.map((user, i) => {
            const y = rowY(i, right.length);
            const from = bankY(user.bank_id) ?? y;
            const busX =
              COLUMNS.bank +
              106 +
              6 *
                Math.max(
                  banks.findIndex((bank) => bank.id === user.bank_id),
                  0,
                );
            return (
              <g key={user.key} data-right={user.kind}>
                <path
                  d={`M${COLUMNS.bank + 100} ${from}H${busX}V${y}H${COLUMNS.users}`}
                  fill="none"
                  stroke="var(--ink)"
                  strokeWidth={user.kind === "motor" ? 3 : 1.6}
                />
                <Box
                  x={COLUMNS.users}
                  y={y}
                  width={WIDTH - COLUMNS.users - 2}
                  fill={RIGHT[user.kind] ?? "var(--dog-far)"}
                  first={user.name}
                  second={`${RIGHT[user.kind] ? "" : "brings "}${Math.round(user.watts).toLocaleString("en-GB")} W`}
                />
                {user.cable && (
                  <text
                    x={(COLUMNS.users + WIDTH) / 2}
                    y={y + BOX / 2 + 13}
                    fontSize={SMALL}
                    textAnchor="middle"
                    fill="var(--muted)"
                  >
                    {user.cable.size_mm2} mm²{user.cable.fuse_a ? ` · ${user.cable.fuse_a} A` : ""}
                  </text>
                )}
              </g>
            );
          })}
        </svg>
      </div>
      <p className="no-print m-0 mb-1 flex flex-wrap items-center gap-3 text-[13px] text-muted">
        Sizes in mm², fuses in A; lengths at Cables.
        <LinkButton disabled={zoom >= MOST_ZOOM} onClick={() => setZoom(zoom * ZOOM_STEP)}>
          larger
        </LinkButton>
        <LinkButton disabled={zoom <= 1} onClick={() => setZoom(zoom / ZOOM_STEP)}>
          smaller
        </LinkButton>
        <LinkButton onClick={save}>save as SVG</LinkButton>
        <LinkButton onClick={() => window.print()}>print</LinkButton>
        <WiringFiles />
      </p>
    </div>
  );
}

function Box(props: {
  x: number;
  y: number;
  width: number;
  fill: string;
  first: string;
  second: string;
  alarm?: boolean;
}) {
  const { x, y, width, fill, first, second, alarm } = props;
  const lines = wrapped(first, Math.floor((width - 6) / LETTER), 2);
  const top = y - ((lines.length + 1) * LINE) / 2 + 11;
  return (
    <g>
      <title>{first}</title>
      <rect
        x={x}
        y={y - BOX / 2}
        width={width}
        height={BOX}
        rx="5"
        fill={fill}
        stroke={alarm ? "var(--alarm)" : "var(--ink)"}
        strokeWidth={alarm ? 2.4 : 1.3}
      />
      {lines.map((line, i) => (
        <text
          key={line}
          x={x + width / 2}
          y={top + i * LINE}
          fontSize={NAME}
          fontWeight="700"
          textAnchor="middle"
          fill="var(--ink)"
        >
          {line}
        </text>
      ))}
      <text
        x={x + width / 2}
        y={top + lines.length * LINE}
        fontSize={SMALL}
        textAnchor="middle"
        fill="var(--ink)"
      >
        {second}
      </text>
    </g>
  );
}

/** Panels, breaker and controller in a row; a controller that the row above feeds too is drawn there once. */
function PanelLine(props: {
  line: Line;
  shared: number | null;
  y: number;
  bank: number | null;
  busX: number;
}) {
  const { line, shared, y, bank, busX } = props;
  const kind = useDesign().entries.words("/controllers/0/kind")[line.kind] ?? "";
  const stroke = line.alarm ? "var(--alarm)" : "var(--ink)";
  return (
    <g data-line={line.key}>
      <path
        d={
          shared === null
            ? `M128 ${y}H${COLUMNS.controller}`
            : `M128 ${y}H${COLUMNS.controller + 40}V${shared + BOX / 2}`
        }
        stroke={stroke}
        strokeWidth="1.8"
        fill="none"
      />
      <Box
        x={2}
        y={y}
        width={126}
        fill="var(--dog-far)"
        first={line.panels}
        second={line.arrangement}
        alarm={line.alarm}
      />
      <rect
        x={COLUMNS.breaker + 8}
        y={y - 8}
        width="24"
        height="16"
        rx="3"
        fill="var(--field)"
        stroke={stroke}
      />
      <line
        x1={COLUMNS.breaker + 13}
        y1={y + 4}
        x2={COLUMNS.breaker + 27}
        y2={y - 4}
        stroke={stroke}
        strokeWidth="1.6"
      />
      <text x={COLUMNS.breaker + 20} y={y - 13} fontSize={SMALL} textAnchor="middle" fill="var(--ink)">
        {line.breaker_a ? `${line.breaker_a} A` : "–"}
      </text>
      <text x={COLUMNS.breaker + 20} y={y + 24} fontSize={SMALL} textAnchor="middle" fill="var(--muted)">
        {line.cable.size_mm2} mm²
      </text>
      {line.string_fuse && (
        <text x={COLUMNS.breaker + 20} y={y + 39} fontSize={SMALL} textAnchor="middle" fill="var(--muted)">
          fuse each
        </text>
      )}
      {shared === null && (
        <Box
          x={COLUMNS.controller}
          y={y}
          width={124}
          fill="var(--field)"
          first={line.controller}
          second={line.boxes > 1 ? `${line.boxes} boxes, ${kind}` : kind}
          alarm={line.alarm}
        />
      )}
      {bank !== null && shared === null && (
        <>
          <path
            d={`M${COLUMNS.controller + 124} ${y}H${busX}V${bank}H${COLUMNS.bank}`}
            stroke="var(--ink)"
            strokeWidth="1.8"
            fill="none"
          />
          {line.out && (
            <text x={COLUMNS.controller + 128} y={y - 6} fontSize={SMALL} fill="var(--muted)">
              {line.out.size_mm2}
            </text>
          )}
        </>
      )}
    </g>
  );
}

function BankPart({ bank, index, y }: { bank: Bank; index: number; y: number }) {
  const busX = COLUMNS.bus + 12 * index;
  const { fuse_a, size_mm2 } = bank.wire;
  return (
    <g data-bank={bank.id}>
      <circle cx={(busX + COLUMNS.bank) / 2} cy={y} r="7" fill="var(--field)" stroke="var(--ink)" />
      <text x={(busX + COLUMNS.bank) / 2} y={y - 12} fontSize={SMALL} textAnchor="middle" fill="var(--ink)">
        {fuse_a ? `${fuse_a} A` : "no fuse"}
      </text>
      <text x={(busX + COLUMNS.bank) / 2} y={y + 22} fontSize={SMALL} textAnchor="middle" fill="var(--muted)">
        {size_mm2}
      </text>
      <Box
        x={COLUMNS.bank}
        y={y}
        width={100}
        fill="var(--bank-soft)"
        first={bank.name}
        second={`${bank.nominal_v.toFixed(1)} V ${Math.round(bank.capacity_ah)} Ah`}
      />
    </g>
  );
}
