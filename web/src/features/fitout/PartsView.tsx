import { useId } from "react";
import type { FitoutPicture, PartLine } from "../../api/client";
import { useSay, useUnits } from "../../kit/preferences";
import { useRecords } from "../../kit/records";
import { Heading } from "../../kit/ui/Page";
import { SaveAs } from "../../kit/ui/SaveAs";
import { counted, fieldText } from "../../kit/units";

const SIGNS = { have: "aboard", ordered: "on order", to_buy: "to buy" } as const;

/** Every part by system: what it costs and weighs, and whether it is there. */
export function PartsView(props: {
  picture: FitoutPicture;
  chosen: string | null;
  onChoose: (key: string) => void;
}) {
  const { picture, chosen, onChoose } = props;
  const { records } = useRecords();
  const say = useSay();
  const units = useUnits();
  const { money, systems, gone } = picture;
  const most = Math.max(...systems.map((system) => system.cost), 1);
  const lines = systems.reduce((sum, system) => sum + system.lines.length, 0);
  const priced = (line: PartLine) =>
    line.cost == null ? "no price" : Math.round(line.cost).toLocaleString("en-GB");
  const mass = (kg: number) => fieldText(Number(kg.toPrecision(2)), "mass_kg", units);
  const one = (line: PartLine) => (
    <li key={line.key}>
      <button
        type="button"
        className="part-line"
        aria-pressed={chosen === line.key}
        onClick={() => onChoose(line.key)}
      >
        <StateMark state={line.state} />
        <span className="min-w-0 flex-1 text-left leading-tight">
          {line.quantity !== 1 && `${say("count", line.quantity)}${line.unit ? ` ${line.unit}` : " ×"} `}
          {line.name}
          {line.used && <b className="ml-1.5 text-sun-text">used</b>}
          {line.short > 0 && <b className="ml-1.5 text-alarm">▲ too few</b>}
        </span>
        <span className="tabular w-[38px] flex-none text-right text-[13px] text-muted">
          {line.mass_kg == null ? "" : mass(line.mass_kg)}
        </span>
        <span
          className={`tabular w-[52px] flex-none text-right ${line.guessed ? "text-muted italic" : ""}`}
          title={line.guessed && line.cost != null ? "a usual price" : undefined}
        >
          {priced(line)}
        </span>
      </button>
    </li>
  );
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <Heading
        title="What she is made of"
        in={`${counted(lines, "line")} by system; each with its ${units.mass} and ${money.currency}, usual prices leaning`}
      />
      <p className="m-0 mb-1 flex gap-5 text-[13px]" aria-hidden="true">
        {(["have", "ordered", "to_buy"] as const).map((state) => (
          <span key={state} className="flex items-center gap-1.5">
            <StateMark state={state} /> {SIGNS[state]}
          </span>
        ))}
      </p>
      <div
        className="min-h-0 flex-1 overflow-y-auto pr-1"
        tabIndex={0}
        role="region"
        aria-label="Parts"
        data-parts
      >
        {systems.map((system) => (
          <section key={system.system} className="mb-2" aria-label={system.label}>
            <h2 className="m-0 flex items-center gap-3 text-[14.5px] font-bold">
              <span className="w-[168px] flex-none">{system.label}</span>
              <Bar of={system} most={most} />
              <span className="tabular whitespace-nowrap">{say("money", system.cost)}</span>
              {system.no_price > 0 && (
                <span className="text-[13px] font-normal text-muted">{system.no_price} without a price</span>
              )}
              <span className="tabular ml-auto text-[13px] font-normal">
                {system.mass_kg > 0 ? say("mass_kg", system.mass_kg) : "not weighed"}
              </span>
            </h2>
            <ul className="part-columns m-0 list-none p-0">{system.lines.map(one)}</ul>
          </section>
        ))}
        {gone.length > 0 && (
          <section aria-label="Bought, and no longer in the design">
            <h2 className="m-0 text-[14.5px] font-bold">Bought, and no longer in the design</h2>
            <ul className="part-columns m-0 list-none p-0">{gone.map(one)}</ul>
          </section>
        )}
      </div>
      <p className="m-0 flex flex-wrap items-baseline gap-x-5 border-t border-hairline pt-1.5" data-sum>
        <b>All of it {say("money", money.cost)}</b>
        <span>paid {say("money", money.paid)}</span>
        <span>on order {say("money", money.ordered)}</span>
        <span>to buy {say("money", money.to_buy)}</span>
        <span className="ml-auto">
          <b>{say("mass_kg", money.mass_kg)}</b>
          {money.no_mass > 0 && <> and {counted(money.no_mass, "line")} not weighed</>}
        </span>
      </p>
      <p className="no-print m-0 mt-0.5 flex flex-wrap gap-4 text-[13px]">
        <SaveAs url="/api/fitout/parts.csv" file="parts.csv" asked={{ records }}>
          save as CSV
        </SaveAs>
        <SaveAs url="/api/fitout/fitout.pdf" file="parts.pdf" asked={{ records, only: "parts" }}>
          save as PDF
        </SaveAs>
      </p>
    </div>
  );
}

export function StateMark({ state }: { state: PartLine["state"] }) {
  return (
    <svg width="13" height="13" className="flex-none" role="img" aria-label={SIGNS[state]}>
      <circle
        cx="6.5"
        cy="6.5"
        r="5.2"
        fill={state === "have" ? "var(--water)" : "none"}
        stroke="var(--water-text)"
        strokeWidth="1.4"
      />
      {state === "ordered" && <path d="M6.5 1.3 A5.2 5.2 0 0 0 6.5 11.7 Z" fill="var(--water)" />}
    </svg>
  );
}

/** Paid, on order, to buy: filled, hatched, open. */
function Bar({ of, most }: { of: FitoutPicture["systems"][number]; most: number }) {
  const wide = 250;
  const hatch = useId();
  const x = (cost: number) => (cost / most) * wide;
  const paid = x(of.paid);
  const ordered = x(of.ordered);
  const open = x(of.to_buy);
  return (
    <svg
      width={Math.max(paid + ordered + open, 1) + 2}
      height="16"
      aria-hidden="true"
      className="max-w-[45%]"
    >
      <defs>
        <pattern id={hatch} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="5" stroke="var(--water)" strokeWidth="2.4" />
        </pattern>
      </defs>
      {paid > 0 && <rect x="1" y="1" width={paid} height="14" fill="var(--water)" />}
      {ordered > 0 && (
        <rect x={1 + paid} y="1" width={ordered} height="14" fill={`url(#${hatch})`} stroke="var(--water)" />
      )}
      {open > 0 && (
        <rect
          x={1 + paid + ordered}
          y="1"
          width={open}
          height="14"
          fill="none"
          stroke="var(--water-text)"
          strokeDasharray="3 2"
        />
      )}
    </svg>
  );
}
