import { useId, useRef, useState } from "react";
import { type BoatDesign, client, dataOf, Refused } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { Alarm } from "../../kit/ui/Alarm";
import { LinkButton } from "../../kit/ui/LinkButton";
import { unitOf } from "../../kit/units";

const DRAFT_FIELDS = [
  ["out", "Speed, out", "speed_mps"],
  ["back", "Speed, back", "speed_mps"],
  ["watts", "Battery watts", "power_w"],
] as const;

type Draft = Record<(typeof DRAFT_FIELDS)[number][0], string>;
const EMPTY: Draft = { out: "", back: "", watts: "" };
const isEmpty = (text: Draft) => Object.values(text).every((part) => !part.trim());

/** A run on its way: it joins the design only when its speed and its watts are there. */
export function DraftRun({ onDone }: { onDone: () => void }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const id = useId();
  const [text, setText] = useState<Draft>(EMPTY);
  const line = useRef(Promise.resolve()); // runs are read one after the other, however fast they are typed
  const added = useRef<string[]>([]);
  const [problem, setProblem] = useState<string | null>(null);

  /** The reader of pasted tables takes units, spans, decimal commas, and volts times amps. */
  async function read(text: Draft) {
    for (const [key, label] of DRAFT_FIELDS)
      if (key !== "back" && !text[key].trim()) throw new Error(`${label}: This needs a number, such as 3.5.`);
    const line = [text.out, text.back, text.watts].map((cell) => cell.replaceAll(/[\t\n;]/g, " ")).join("\t");
    const taken_ids = [...(design.runs ?? []).map((run) => run.id), ...added.current];
    const found = await dataOf(
      client.POST("/api/hull/runs/read", { body: { text: line, unit: units.speed, taken_ids } }),
    );
    const first = found.problems[0];
    if (first) throw new Error(`${first.message} Accepted: ${first.accepted}.`);
    return found.runs;
  }

  /** The fields are free for the next run at once; one that is refused comes back into them. */
  function add() {
    const entered = text;
    setText(EMPTY);
    setProblem(null);
    document.getElementById(`${id}out`)?.focus();
    line.current = line.current.then(() => addOne(entered));
  }

  async function addOne(entered: Draft) {
    const refuse = (said: string) => {
      const told = [entered.out, entered.back, entered.watts].filter(Boolean).join(", ");
      setText((now) => (isEmpty(now) ? entered : now));
      setProblem(told ? `${told}: ${said}` : said);
    };
    try {
      const runs = (await read(entered)).map((run) => ({ ...run, set_name: design.fitted_set ?? "" }));
      const withRun = (current: BoatDesign): BoatDesign => ({
        ...current,
        runs: [...(current.runs ?? []), ...runs],
      });
      await dataOf(client.POST("/api/design/check", { body: { design: withRun(design) } }));
      apply(withRun, `add-${runs[0]?.id}`);
      added.current.push(...runs.map((run) => run.id));
    } catch (error) {
      if (error instanceof Refused) {
        const first = error.problems[0];
        return refuse(first ? `${first.message} Accepted: ${first.accepted}.` : "The server did not answer.");
      }
      refuse(error instanceof Error ? error.message : "The server did not answer.");
    }
  }

  return (
    <form
      aria-label="New run"
      className="mt-1"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <div className="flex items-end gap-2">
        {DRAFT_FIELDS.map(([key, label, kind]) => (
          <label key={key} className="min-w-0 flex-1 text-[13px] text-muted">
            {label}
            <input
              id={`${id}${key}`}
              className="block h-[28px] w-full rounded-[5px] border border-edge bg-field px-2 text-right text-[14px] text-ink placeholder:text-muted"
              inputMode="text"
              autoComplete="off"
              placeholder={key === "back" ? "one way" : unitOf(kind, units)[0]}
              value={text[key]}
              onChange={(event) => setText((old) => ({ ...old, [key]: event.target.value }))}
            />
          </label>
        ))}
      </div>
      <p className="m-0 mt-0.5 text-[12.5px] text-muted">
        Watts may be volts × amps, 25.6 x 14. A span is written 4.0-4.5.
      </p>
      {problem && <Alarm>{problem}</Alarm>}
      <div className="mt-1 flex gap-4">
        <button type="submit" className="link">
          add this run
        </button>
        <LinkButton onClick={onDone}>done</LinkButton>
      </div>
    </form>
  );
}
