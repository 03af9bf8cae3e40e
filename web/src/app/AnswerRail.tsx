import { type ReactNode, useState } from "react";
import { Link, useParams } from "react-router";
import type { Answers, RailCell } from "../api/client";
import type { Own } from "../kit/ownCells";
import { useUnits } from "../kit/preferences";
import { WhyPopover } from "../kit/ui/WhyPopover";
import { shown, split, told } from "../kit/units";
import { STATIONS } from "./stations";

/** The answer, always in sight: how fast and how far on the sun alone, and what holds the boat back. */
export function AnswerRail(props: {
  answers: Answers | undefined;
  own: Own | null; // of the station that is open
  stale: boolean;
  error: Error | null;
  children: ReactNode;
}) {
  const { own, stale, error, children } = props;
  const answers =
    props.answers && own
      ? { ...props.answers, rail: among(own.cells, props.answers.rail), assumes: own.assumes }
      : props.answers;
  const [open, setOpen] = useState(false);
  const units = useUnits();
  return (
    <section
      data-open={open}
      className="rail flex min-h-[106px] items-start gap-4 bg-deep px-6 py-2 text-on-deep"
      aria-label="Answers"
    >
      <div className="min-w-0 flex-1">
        <div
          className={`rail-cells grid flex-1 grid-flow-col auto-cols-fr gap-x-5 gap-y-2 transition-opacity duration-150 ${stale ? "opacity-70" : ""}`}
          aria-busy={stale}
        >
          {answers?.rail.map((cell) => (
            <Cell key={cell.key} cell={cell} />
          ))}
          {!answers && (
            <p className="col-span-2 m-0 py-6">
              {error ? `No answer: ${error.message}` : "Computing the answer …"}
            </p>
          )}
        </div>
        {answers && error && (
          <p role="alert" className="m-0 mt-1 text-[12.5px] leading-snug font-semibold text-rail-number">
            ▲ {error.message} These are the answers from before.
          </p>
        )}
        {answers && !error && (
          <p className="rail-assumes m-0 mt-1 text-[12.5px] leading-snug text-on-deep-muted">
            {told(answers.assumes, units)}
          </p>
        )}
      </div>
      <div className="rail-side">{children}</div>
      <button
        type="button"
        className="rail-toggle cursor-pointer border-0 bg-transparent p-2 text-rail-number"
        aria-expanded={open}
        aria-label={open ? "Show fewer answers" : "Show all answers"}
        onClick={() => setOpen(!open)}
      >
        {open ? "▼" : "▲"}
      </button>
      <LiveSummary answers={stale ? undefined : answers} />
    </section>
  );
}

const STAYS = /^(sun_only_|held_back_by$)/;

/** A station's own cells, with those that never leave the rail after them. */
const among = (own: RailCell[], rail: RailCell[]) => [...own, ...rail.filter((cell) => STAYS.test(cell.key))];

function Cell({ cell }: { cell: RailCell }) {
  const units = useUnits();
  const [number, unit] = cell.value ? split(cell.value, units) : ["none", ""];
  const isText = cell.value === null || cell.value?.quantity === "text";
  return (
    <WhyPopover
      title={cell.label}
      why={cell.why}
      assumes={cell.assumes}
      reason={cell.reason}
      mend={cell.mend && <Mend at={cell.mend} />}
    >
      <button
        type="button"
        data-cell={cell.key}
        className="flex cursor-pointer flex-col items-start justify-start rounded border-0 bg-transparent p-0 text-left text-on-deep focus-visible:outline-[var(--rail-number)]"
      >
        <span className="block text-[13px] text-on-deep-muted">{cell.label}</span>
        <span className="tabular flex items-baseline gap-1.5 leading-[1.15] text-rail-number">
          <span
            data-value
            className={isText ? "text-[21px] leading-[34px] font-bold" : "text-[29px] font-bold"}
          >
            {number}
          </span>
          <span className="text-[15px]">{unit}</span>
          {cell.change && <Change cell={cell} />}
          {cell.band && !cell.change && (
            <span
              data-ends
              className="rail-more text-[12.5px] text-on-deep"
              title="Reached by 9 of 10 and by 1 of 10 such boats, panels and days"
            >
              {cell.band.map((end) => split(end, units)[0]).join(" to ")}
            </span>
          )}
        </span>
        {cell.reason && <span className="block text-[12.5px] leading-snug">{told(cell.reason, units)}</span>}
        {cell.lines.slice(0, cell.reason ? 1 : 2).map((line) => (
          <span key={line.text} className="rail-more block text-[12.5px] leading-snug text-on-deep-muted">
            {told(line, units)}
          </span>
        ))}
      </button>
    </WhyPopover>
  );
}

/** The way to the station where a reason is mended. */
function Mend({ at }: { at: string }) {
  const { variantId } = useParams();
  const station = STATIONS.find((item) => item.key === at);
  return (
    <Link className="link" to={`/${at}/${variantId}`}>
      mend it at {station?.label ?? at}
    </Link>
  );
}

function Change({ cell }: { cell: RailCell }) {
  const units = useUnits();
  if (!cell.change || typeof cell.change.value !== "number") return null;
  const text = shown(cell.change, units);
  if (/^[+−]0([.]0)?\D*$/.test(text)) return null;
  return (
    <span
      className="rounded-full border border-on-deep-muted px-1.5 text-[12.5px] text-on-deep"
      title="against the kept variant"
    >
      {text}
    </span>
  );
}

/** Says the headline once it has settled, for those who hear the page. */
function LiveSummary({ answers }: { answers: Answers | undefined }) {
  const units = useUnits();
  const text = answers?.rail
    .filter((cell) => cell.value)
    .map((cell) => (cell.value ? `${cell.label} ${shown(cell.value, units)}` : ""))
    .join(", ");
  return (
    <p className="sr-only" aria-live="polite">
      {text}
    </p>
  );
}
