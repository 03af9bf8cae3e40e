import { useId, useState } from "react";
import { type BoatDesign, client, dataOf, Refused } from "../../api/client";
import { useDesign } from "../../app/design";
import { useUnits } from "../../app/preferences";
import { parsed, unitOf } from "../../shared/units";

const DRAFT_FIELDS = [
  ["out", "Speed, out", "speed_mps"],
  ["back", "Speed, back", "speed_mps"],
  ["watts", "Battery watts", "power_w"],
] as const;

/** A run on its way: it joins the design only when its speed and its watts are there. */
export function DraftRun({ onDone }: { onDone: () => void }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const id = useId();
  const [text, setText] = useState({ out: "", back: "", watts: "" });
  const [problem, setProblem] = useState<string | null>(null);

  async function add() {
    const out = parsed(text.out, "speed_mps", units);
    const back = text.back.trim() ? parsed(text.back, "speed_mps", units) : { value: null };
    const watts = parsed(text.watts, "power_w", units);
    for (const [found, name] of [
      [out, "Speed, out"],
      [back, "Speed, back"],
      [watts, "Battery watts"],
    ] as const) {
      if ("problem" in found) return setProblem(`${name}: ${found.problem}`);
    }
    if ("problem" in out || "problem" in back || "problem" in watts) return;
    const run = {
      id: `run-${crypto.randomUUID().slice(0, 8)}`,
      speed_mps: out.value,
      back_speed_mps: back.value,
      power_w: watts.value,
      set_name: design.fitted_set ?? "",
    };
    const withRun = (current: BoatDesign): BoatDesign => ({
      ...current,
      runs: [...(current.runs ?? []), run],
    });
    try {
      await dataOf(client.POST("/api/check", { body: { design: withRun(design) } }));
    } catch (error) {
      const first = error instanceof Refused ? error.problems[0] : undefined;
      return setProblem(
        first ? `${first.message} Accepted: ${first.accepted}.` : "The server did not answer.",
      );
    }
    apply(withRun, `add-${run.id}`);
    setText({ out: "", back: "", watts: "" });
    setProblem(null);
    document.getElementById(`${id}out`)?.focus();
  }

  return (
    <form
      aria-label="New run"
      className="mt-1"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <div className="flex items-end gap-2">
        {DRAFT_FIELDS.map(([key, label, kind]) => (
          <label key={key} className="min-w-0 flex-1 text-[13px] text-muted">
            {label}
            <input
              id={`${id}${key}`}
              className="block h-[28px] w-full rounded-[5px] border border-edge bg-field px-2 text-right text-[14px] text-ink placeholder:text-muted"
              inputMode="decimal"
              autoComplete="off"
              placeholder={key === "back" ? "one way" : unitOf(kind, units)[0]}
              value={text[key]}
              onChange={(event) => setText((old) => ({ ...old, [key]: event.target.value }))}
            />
          </label>
        ))}
      </div>
      {problem && (
        <p role="alert" className="m-0 mt-1 text-[13px] font-semibold text-alarm">
          ▲ {problem}
        </p>
      )}
      <div className="mt-1 flex gap-4">
        <button type="submit" className="link">
          add this run
        </button>
        <button type="button" className="link" onClick={onDone}>
          done
        </button>
      </div>
    </form>
  );
}
