import { useId } from "react";
import type { FitoutPicture, ItemShown, StepOut } from "../../api/client";
import { useSay } from "../../kit/preferences";
import { newId, useNoted, useRecords } from "../../kit/records";
import { LinkButton } from "../../kit/ui/LinkButton";
import { OwnField, OwnText } from "../../kit/ui/OwnField";
import { Heading } from "../../kit/ui/Page";
import { SaveAs } from "../../kit/ui/SaveAs";
import { clockOf, dayOf, seenIn } from "./minute";
import { StepsDiagram } from "./StepsDiagram";
import { signerNow } from "./signer";
import { VoltScale } from "./VoltScale";

/** The diagram that fills as it is proved, the step that is next, and all steps. */
export function ConnectingView(props: {
  picture: FitoutPicture;
  chosen: string | null;
  onChoose: (key: string | null) => void;
}) {
  const { picture, chosen, onChoose } = props;
  const { records } = useRecords();
  const { steps } = picture;
  const step =
    steps.find((one) => one.key === chosen) ??
    steps.find((one) => one.key === picture.next_step) ??
    steps[steps.length - 1];
  const number = steps.find((one) => one.key === picture.next_step)?.number;
  return (
    <div
      className="flex min-h-0 flex-1 flex-col overflow-y-auto"
      tabIndex={0}
      role="region"
      aria-label="Connecting"
    >
      <Heading
        title={
          number === undefined ? "Connecting: all proved" : `Connecting, step ${number} of ${steps.length}`
        }
        in="filled is done, the sun is next, dashed is not yet joined"
      />
      <StepsDiagram picture={picture} chosen={step?.key ?? null} />
      {step && <StepCard step={step} minute={picture.minute} />}
      <ol className="step-list m-0 mt-1 list-none border-t border-hairline p-0 pt-1.5" data-steps>
        {steps.map((one) => (
          <li key={one.key}>
            <button
              type="button"
              className="step-line"
              aria-current={one.key === step?.key ? "step" : undefined}
              onClick={() => onChoose(one.key)}
            >
              <StepMark step={one} next={one.key === picture.next_step} />
              <span className="min-w-0 flex-1 truncate text-left">{one.title}</span>
              <span className="tabular text-muted">{told(one)}</span>
            </button>
          </li>
        ))}
      </ol>
      <p className="no-print m-0 mt-2 flex flex-wrap gap-4 text-[13px]">
        <SaveAs url="/api/fitout/fitout.pdf" file="connecting.pdf" asked={{ records, only: "steps" }}>
          save as a sheet to sign (PDF)
        </SaveAs>
        {chosen && chosen !== picture.next_step && (
          <LinkButton onClick={() => onChoose(null)}>to the next step</LinkButton>
        )}
      </p>
    </div>
  );
}

function told(step: StepOut): string {
  if (step.wrong) return "wrong";
  if (step.stale) return "changed since";
  const read = step.items.flatMap((item) => (item.good && item.reading != null ? [`${item.reading} V`] : []));
  if (read.length > 0) return read.slice(0, 2).join(", ");
  return step.done ? ((step.items[0]?.by || step.items[0]?.at?.slice(0, 10)) ?? "") : "";
}

/** The number of a step in its circle: filled, here, or not yet; wrong in red. */
export function StepMark({ step, next }: { step: StepOut; next: boolean }) {
  const state = step.wrong ? "wrong" : step.done ? "done" : next ? "next" : "open";
  const said = { wrong: "wrong", done: "proved", next: "next", open: "not yet" }[state];
  return (
    <span className="step-mark" data-state={state}>
      <span aria-hidden="true">{state === "wrong" ? "!" : step.number}</span>
      <span className="sr-only">
        {step.number}, {said}:{" "}
      </span>
    </span>
  );
}

function StepCard({ step, minute }: { step: StepOut; minute: FitoutPicture["minute"] }) {
  const say = useSay();
  const read = step.items.filter((item) => item.unit !== null);
  const { note } = useRecords();
  const first = useNoted("step", (one) => one.step === step.key && one.item === step.items[0]?.key);
  const scale = read.find((item) => item.zones.length > 0);
  return (
    <section
      aria-label={`Step ${step.number}`}
      className="border-t border-hairline pt-2 pb-1"
      data-step={step.key}
    >
      <div className="flex flex-wrap items-start gap-x-6 gap-y-1">
        <div className="min-w-[240px] flex-1">
          <h2 className="m-0 text-[16px] font-bold">
            {step.number}. {step.title}
          </h2>
          <p className="m-0 max-w-[62ch]">
            {step.what} {step.meter}
          </p>
          {step.live_v != null && (
            <p className="m-0 font-semibold text-alarm">
              ▲ Up to {say("voltage_v", step.live_v)} DC as soon as it is light.
            </p>
          )}
        </div>
        <ul className="m-0 max-w-[330px] list-none p-0">
          {step.items.map((item) => (
            <li key={item.key} className="mb-1">
              {item.unit === null ? (
                <Tick step={step} item={item} minute={minute} />
              ) : (
                <Reading step={step} item={item} minute={minute} />
              )}
            </li>
          ))}
        </ul>
      </div>
      {first && (
        <OwnText
          label="Note"
          width={260}
          most={400}
          value={first.note}
          onValue={(text) => note({ ...first, note: text })}
        />
      )}
      {scale && <VoltScale items={read} />}
      {read.length > 0 && !scale && step.kind === "strings" && (
        <p className="m-0 text-muted">
          Nothing can be expected of these panels in this light: folded, covered, or too dark. Choose another
          minute.
        </p>
      )}
    </section>
  );
}

type Shown = FitoutPicture["minute"];

function useProof(step: StepOut, item: ItemShown, minute: Shown) {
  const { note, withdraw } = useRecords();
  const held = useNoted("step", (one) => one.step === step.key && one.item === item.key);
  return {
    held,
    prove: (reading: number | null) =>
      note({
        kind: "step",
        id: held?.id ?? newId(),
        step: step.key,
        item: item.key,
        of: item.of,
        at: minute.at,
        by: signerNow(),
        reading,
        seen: reading === null ? null : seenIn(minute),
        note: held?.note ?? "",
      }),
    undo: () => held && withdraw(held.id),
  };
}

function Tick({ step, item, minute }: { step: StepOut; item: ItemShown; minute: Shown }) {
  const { held, prove, undo } = useProof(step, item, minute);
  const id = useId();
  return (
    <span className="flex items-start gap-2">
      <input
        id={id}
        type="checkbox"
        className="mt-1"
        checked={held !== undefined && held.of === item.of}
        onChange={(event) => (event.target.checked ? prove(null) : undo())}
      />
      <label htmlFor={id} className="max-w-[34ch]">
        {item.name}
        {item.stale && (
          <span className="block font-semibold text-alarm">▲ it was another one when it was proved</span>
        )}
        {item.good && (
          <span className="block text-[13px] text-muted">
            {[item.by, item.at?.slice(0, 10)].filter(Boolean).join(", ")}
          </span>
        )}
      </label>
    </span>
  );
}

function Reading({ step, item, minute }: { step: StepOut; item: ItemShown; minute: Shown }) {
  const { held, prove, undo } = useProof(step, item, minute);
  const say = useSay();
  const judged = held?.reading != null && item.reading === held.reading; // else what is said is of the one before
  return (
    <div>
      <div className="flex flex-wrap items-center gap-x-2">
        <span className="min-w-[60px] max-w-[120px]">{item.name}</span>
        <OwnField
          bare
          label={`${step.title}: ${item.name}`}
          kind="voltage_v"
          low={-1000}
          high={1000}
          value={held?.reading}
          wrong={judged && item.wrong}
          onValue={(value) => {
            if (value === null) undo();
            else prove(value);
          }}
        />
        <span className="text-[13px] text-muted">V</span>
        {judged && (
          <span className={item.wrong || item.stale ? "font-semibold text-alarm" : "font-semibold"}>
            {item.stale ? "▲ another wiring then" : item.wrong ? `▲ ${item.verdict}` : "✓ as it should be"}
          </span>
        )}
        {held?.reading != null && held.seen && (
          <span className="text-[13px] text-muted">
            {dayOf(held.at)} {clockOf(held.at)}, shadow {held.seen.shadow}
          </span>
        )}
        {held?.reading == null && item.expected_v && (
          <span className="text-[13px] text-muted">
            expected {say("voltage_v", item.expected_v[0] ?? 0)} to{" "}
            {say("voltage_v", item.expected_v[1] ?? 0)}
          </span>
        )}
      </div>
      {judged && item.wrong && item.check && <p className="m-0 max-w-[44ch] text-[13px]">{item.check}</p>}
    </div>
  );
}
