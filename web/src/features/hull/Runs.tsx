import { Popover } from "radix-ui";
import { lazy, Suspense, useState } from "react";
import type { HullPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useUnits } from "../../kit/preferences";
import { saveFile } from "../../kit/saveFile";
import { Group, NumberField, TextField } from "../../kit/ui/fields";
import { shown, unitOf } from "../../kit/units";
import { DraftRun } from "./DraftRun";

const PasteRuns = lazy(async () => ({ default: (await import("./PasteRuns")).PasteRuns }));

const COLUMNS = [
  { entry: "speed_mps", name: "speed out", kind: "speed_mps", width: 56, step: 0.1 },
  {
    entry: "back_speed_mps",
    name: "speed back; empty means one way",
    kind: "speed_mps",
    usual: null,
    width: 56,
    step: 0.1,
  },
] as const;

/** The person's own measured runs. */
export function Runs({ picture }: { picture: HullPicture | undefined }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const [adding, setAdding] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [sets, setSets] = useState(false);
  const runs = design.runs ?? [];
  const speed = unitOf("speed_mps", units)[0];
  const shownSets = sets || runs.some((run) => run.set_name);
  const point = (id: string) => picture?.runs.find((item) => item.id === id);

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
              <th className="text-right font-normal">off</th>
              <th className="w-6">
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
                <td className="py-0.5 text-right">
                  <NumberField
                    bare
                    pointer={`/runs/${index}/power_w`}
                    label=""
                    name={`Run ${index + 1}, battery watts`}
                    kind="power_w"
                    width={62}
                    usual={
                      run.volts != null && run.amps != null ? (point(run.id)?.power_w ?? null) : undefined
                    }
                  />
                  {shownSets && (
                    <TextField
                      bare
                      pointer={`/runs/${index}/set_name`}
                      label={`Run ${index + 1}, set`}
                      width={62}
                      optional="text"
                    />
                  )}
                </td>
                <td className="py-1.5 text-right text-[13px] text-muted">
                  <Off point={point(run.id)} />
                </td>
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
      <Streams picture={picture} />
      {shownSets && <Sets picture={picture} />}
      {adding ? (
        <DraftRun onDone={() => setAdding(false)} />
      ) : (
        <p className="m-0 flex flex-wrap gap-x-4">
          <button type="button" className="link" onClick={() => setAdding(true)}>
            add a run
          </button>
          <button type="button" className="link" onClick={() => setPasting(true)}>
            paste
          </button>
          <HowToRun />
          {runs.length > 0 && (
            <button
              type="button"
              className="link"
              onClick={() =>
                void saveFile(
                  "/api/hull/runs.csv",
                  JSON.stringify({ design, unit: units.speed }),
                  `${design.name}-runs.csv`,
                )
              }
            >
              save as CSV
            </button>
          )}
          {runs.length > 1 && !shownSets && (
            <button type="button" className="link" onClick={() => setSets(true)}>
              before and after
            </button>
          )}
        </p>
      )}
      {runs.length > 0 && !adding && (
        <p className="m-0 text-[13px] text-muted">Empty “back” means one way; “off” is against the curve.</p>
      )}
      {pasting && (
        <Suspense fallback={null}>
          <PasteRuns open onOpen={setPasting} />
        </Suspense>
      )}
    </Group>
  );
}

/** How far a run lies off the fitted curve; outliers marked. */
function Off({ point }: { point: HullPicture["runs"][number] | undefined }) {
  const units = useUnits();
  if (!point || point.off_frac == null) return <span title="not in use">–</span>;
  const text = shown({ quantity: "fraction", value: point.off_frac, signed: true }, units).replace(
    "\u00a0",
    "",
  );
  return point.outlier ? (
    <b className="text-alarm" title="far off the others: check it">
      ▲{text}
    </b>
  ) : (
    <span>{text}</span>
  );
}

/** The streams that the pairs show. */
function Streams({ picture }: { picture: HullPicture | undefined }) {
  const units = useUnits();
  const found = (picture?.runs ?? []).map((run) => run.current_mps).filter((c): c is number => c != null);
  if (found.length === 0) return null;
  const most = Math.max(...found.map(Math.abs));
  return (
    <p className="m-0 text-[13px] text-muted">
      Stream taken out: up to {shown({ quantity: "speed_mps", value: most, signed: false }, units)}.
    </p>
  );
}

/** Runs before and after a change, each set by itself; one set or all may be in use. */
function Sets({ picture }: { picture: HullPicture | undefined }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const names = [...new Set((design.runs ?? []).map((run) => run.set_name ?? ""))];
  const power = (value: number) => shown({ quantity: "power_w", value, signed: false }, units);
  return (
    <div className="mb-1">
      <label className="flex min-h-[30px] items-center justify-between">
        Runs in use
        <select
          className="h-[28px] w-[130px] rounded-[5px] border border-edge bg-field px-1 text-ink"
          value={design.fitted_set ?? "\u0000"}
          onChange={(event) => {
            const chosen = event.target.value === "\u0000" ? null : event.target.value;
            apply((current) => ({ ...current, fitted_set: chosen }), "fitted-set");
          }}
        >
          <option value={"\u0000"}>all</option>
          {names.map((name) => (
            <option key={name} value={name}>
              {name || "without a name"}
            </option>
          ))}
        </select>
      </label>
      {(picture?.sets ?? []).map((set) => (
        <p key={set.name} className="m-0 flex justify-between text-[13px]">
          <span>
            {set.name || "without a name"}, {set.runs} {set.runs === 1 ? "run" : "runs"}
          </span>
          <span className="tabular">
            {power(set.power_w)}{" "}
            <span className="text-muted">
              {power(set.low_w)}–{power(set.high_w)}
            </span>
          </span>
        </p>
      ))}
      {(picture?.sets ?? []).length > 0 && picture && (
        <p className="m-0 text-[13px] text-muted">
          at the planned{" "}
          {shown({ quantity: "speed_mps", value: picture.plan_speed_mps, signed: false }, units)}
        </p>
      )}
    </div>
  );
}

function HowToRun() {
  return (
    <Popover.Root>
      <Popover.Trigger className="link">how to run</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="sheet z-30 w-[300px] p-4"
          side="right"
          sideOffset={6}
          collisionPadding={8}
        >
          <h3 className="m-0 mb-1 text-[15px] font-bold">A run worth having</h3>
          <ol className="m-0 pl-5">
            <li>Flat water, little wind, deep enough: three draughts under you.</li>
            <li>Usual load aboard, clean bottom, the same trim each time.</li>
            <li>Set the throttle and leave it. Wait until speed and watts stand still.</li>
            <li>Note a steady minute: speed by satellite, watts at the battery, or volts and amps.</li>
            <li>Turn round and run back at once, throttle untouched: both ways take the stream out.</li>
            <li>Four speeds, from easy to brisk. Panels off or covered if the meter is on their side.</li>
          </ol>
          <Popover.Arrow className="fill-[var(--edge)]" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
