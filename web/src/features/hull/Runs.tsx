import { Popover } from "radix-ui";
import { Fragment, lazy, Suspense, useState } from "react";
import type { HullPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { Field, RemovePart } from "../../kit/ui/Field";
import { Group } from "../../kit/ui/fields";
import { LinkButton } from "../../kit/ui/LinkButton";
import { SaveAs } from "../../kit/ui/SaveAs";
import { Head } from "../../kit/ui/View";
import { shown, unitOf } from "../../kit/units";
import { DraftRun } from "./DraftRun";

const PasteRuns = lazy(async () => ({ default: (await import("./PasteRuns")).PasteRuns }));

/** The person's own measured runs. */
export function Runs({ picture }: { picture: HullPicture | undefined }) {
  const { design } = useDesign();
  const units = useUnits();
  const [adding, setAdding] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [sets, setSets] = useState(false);
  const [weather, setWeather] = useState(false);
  const runs = design.runs ?? [];
  const speed = unitOf("speed_mps", units)[0];
  const shownSets = sets || runs.some((run) => run.set_name);
  const shownWeather = weather || runs.some((run) => run.wind_mps || run.wave_height_m);
  const point = (id: string) => picture?.runs.find((item) => item.id === id);

  return (
    <Group title="Measured runs">
      {runs.length === 0 && !adding && (
        <p className="m-0 mb-1 text-muted">
          None yet. A steady minute on flat water, out and back at one throttle: speeds and battery watts.
        </p>
      )}
      {runs.length > 0 && (
        <table className="bench-table mb-1 w-full">
          <Head of={[`${speed} out`, "back", "watts", "off"]} quiet="Remove" />
          <tbody>
            {runs.map((run, index) => (
              <Fragment key={run.id}>
                <tr className={shownWeather ? "align-top" : "border-b border-hairline align-top"}>
                  {["speed_mps", "back_speed_mps"].map((entry) => (
                    <td key={entry} className="py-0.5 text-right">
                      <Field bare at={`/runs/${index}/${entry}`} width={56} />
                    </td>
                  ))}
                  <td className="py-0.5 text-right">
                    <Field bare at={`/runs/${index}/power_w`} width={62} />
                    {shownSets && <Field bare at={`/runs/${index}/set_name`} width={62} />}
                  </td>
                  <td className="py-1.5 text-right text-[13px] text-muted">
                    <Off point={point(run.id)} />
                  </td>
                  <td className="text-center">
                    <RemovePart cross from="/runs" id={run.id} words={`Remove run ${index + 1}`} />
                  </td>
                </tr>
                {shownWeather && (
                  <tr className="border-b border-hairline">
                    <td colSpan={5} className="pb-1 text-[13px] text-muted">
                      wind <Field bare at={`/runs/${index}/wind_mps`} width={40} /> {speed}{" "}
                      <Field bare at={`/runs/${index}/wind_angle_deg`} width={40} />° waves{" "}
                      <Field bare at={`/runs/${index}/wave_height_m`} width={40} />{" "}
                      {unitOf("length_m", units)[0]}
                    </td>
                  </tr>
                )}
              </Fragment>
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
          <LinkButton onClick={() => setAdding(true)}>add a run</LinkButton>
          <LinkButton onClick={() => setPasting(true)}>paste</LinkButton>
          <HowToRun />
          {runs.length > 0 && (
            <SaveAs url="/api/hull/runs.csv" file="runs.csv" asked={{ unit: units.speed }}>
              save as CSV
            </SaveAs>
          )}
          {runs.length > 0 && !shownWeather && (
            <LinkButton onClick={() => setWeather(true)}>wind and waves</LinkButton>
          )}
          {runs.length > 1 && !shownSets && (
            <LinkButton onClick={() => setSets(true)}>before and after</LinkButton>
          )}
        </p>
      )}
      {runs.length > 0 && !adding && (
        <p className="m-0 text-[13px] text-muted">
          Empty “back” means one way; “off” is against the curve
          {shownWeather && "; the wind’s angle is off the bow on the way out, the waves come with it"}.
        </p>
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
  const say = useSay();
  if (!point || point.off_frac == null) return <span title="not in use">–</span>;
  const text = say("fraction", point.off_frac, true).replace("\u00a0", "");
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
  const say = useSay();
  const found = (picture?.runs ?? []).map((run) => run.current_mps).filter((c): c is number => c != null);
  if (found.length === 0) return null;
  const most = Math.max(...found.map(Math.abs));
  return <p className="m-0 text-[13px] text-muted">Stream taken out: up to {say("speed_mps", most)}.</p>;
}

/** Runs before and after a change, each set by itself; one set or all may be in use. */
function Sets({ picture }: { picture: HullPicture | undefined }) {
  const { design, apply } = useDesign();
  const say = useSay();
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
          at the planned {say("speed_mps", picture.plan_speed_mps)}
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
          <Popover.Arrow className="fill-edge" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
