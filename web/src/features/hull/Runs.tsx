import { useId, useState } from "react";
import { type BoatDesign, client, dataOf, Refused } from "../../api/client";
import { useDesign } from "../../app/design";
import { useUnits } from "../../app/preferences";
import { withValue } from "../../shared/pointer";
import { Group, NumberField } from "../../shared/ui/fields";
import { parsed, unitOf } from "../../shared/units";

const COLUMNS = [
  { entry: "speed_mps", name: "speed out", kind: "speed_mps", width: 66, step: 0.1 },
  {
    entry: "back_speed_mps",
    name: "speed back; empty means one way",
    kind: "speed_mps",
    usual: null,
    width: 66,
    step: 0.1,
  },
  { entry: "power_w", name: "battery watts", kind: "power_w", width: 72 },
] as const;

/** The person's own measured runs. */
export function Runs() {
  const { design, apply } = useDesign();
  const units = useUnits();
  const [adding, setAdding] = useState(false);
  const runs = design.runs ?? [];
  const speed = unitOf("speed_mps", units)[0];

  return (
    <Group title="Measured runs">
      {runs.length === 0 && !adding && (
        <p className="m-0 mb-1 text-muted">
          None yet. A steady minute on flat water, out and back at one throttle: speeds and battery watts.
        </p>
      )}
      {runs.length > 0 && (
        <table className="mb-1 w-full border-collapse">
          <thead>
            <tr className="text-[13px] text-muted">
              <th className="text-right font-normal">{speed} out</th>
              <th className="text-right font-normal">back</th>
              <th className="text-right font-normal">watts</th>
              <th className="w-7">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {runs.map((run, index) => (
              <tr key={run.id} className="border-b border-hairline align-top">
                {COLUMNS.map(({ entry, name, kind, ...rest }) => (
                  <td key={entry} className="py-0.5 text-right">
                    <NumberField
                      bare
                      pointer={`/runs/${index}/${entry}`}
                      label=""
                      name={`Run ${index + 1}, ${name}`}
                      kind={kind}
                      {...rest}
                    />
                  </td>
                ))}
                <td className="text-center">
                  <button
                    type="button"
                    className="cross"
                    aria-label={`Remove run ${index + 1}`}
                    onClick={() =>
                      apply(
                        (current) =>
                          withValue(
                            current,
                            "/runs",
                            (current.runs ?? []).filter((item) => item.id !== run.id),
                          ),
                        "remove-run",
                      )
                    }
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {adding ? (
        <DraftRun onDone={() => setAdding(false)} />
      ) : (
        <button type="button" className="link" onClick={() => setAdding(true)}>
          add a run
        </button>
      )}
      {runs.length > 0 && !adding && (
        <span className="ml-3 text-[13px] text-muted">empty “back” means one way</span>
      )}
    </Group>
  );
}

const DRAFT_FIELDS = [
  ["out", "Speed, out", "speed_mps"],
  ["back", "Speed, back", "speed_mps"],
  ["watts", "Battery watts", "power_w"],
] as const;

/** A run on its way: it joins the design only when its speed and its watts are there. */
function DraftRun({ onDone }: { onDone: () => void }) {
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
      displacement_kg: design.hull.displacement_kg,
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
