import { useId, useState } from "react";
import type { FitoutPicture, RecordOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { newId, useNoted, useRecords } from "../../kit/records";
import { useToast } from "../../kit/Toast";
import { LinkButton } from "../../kit/ui/LinkButton";
import { OwnField, OwnText } from "../../kit/ui/OwnField";
import { parsed } from "../../kit/units";
import { OtherFields } from "./OtherTests";

type Test = RecordOf<"test">;

/** The tests of a boat's panels, and the points of the one that is chosen. */
export function TestFields(props: {
  picture: FitoutPicture;
  chosen: string | null;
  onChoose: (id: string | null) => void;
}) {
  const { picture, chosen, onChoose } = props;
  const { design } = useDesign();
  const { records, note, withdraw } = useRecords();
  const toast = useToast();
  const say = useSay();
  const of = useId();
  const tests = picture.tests;
  const shown = tests.find((test) => test.note.id === chosen) ?? tests[0];
  const other =
    picture.others.find((one) => one.id === chosen) ?? (tests.length === 0 ? picture.others[0] : undefined);
  const wanted = other ? null : (chosen ?? shown?.note.id);
  const held = useNoted("test", (one) => one.id === wanted);
  const put = (change: Partial<Test>) => held && note({ ...held, ...change });
  const add = () => {
    const id = newId();
    note({
      kind: "test",
      id,
      at: picture.minute.at,
      name: `Panel ${(records.records?.filter((record) => record.kind === "test").length ?? 0) + 1}`,
      group_id: held?.group_id ?? design.panels?.[0]?.id ?? null,
      points: [],
      irradiance_w_per_m2: held?.irradiance_w_per_m2 ?? null,
      light_known_frac: held?.light_known_frac ?? 0.05,
      cell_c: held?.cell_c ?? 40,
      note: "",
    });
    onChoose(id);
  };
  const bank = design.banks?.[0];
  const drive = design.drives[0];
  const begun = (record: RecordOf<"bank_test"> | RecordOf<"motor_test">) => {
    note(record);
    onChoose(record.id);
  };
  const count = () =>
    bank &&
    begun({
      kind: "bank_test",
      id: newId(),
      at: picture.minute.at,
      bank_id: bank.id,
      counted_ah: null,
      hours: 10,
      temperature_c: 20,
      note: "",
    });
  const pull = () =>
    drive &&
    begun({
      kind: "motor_test",
      id: newId(),
      at: picture.minute.at,
      drive_id: drive.id,
      name: "As she is",
      volts: null,
      amps: null,
      pull_n: null,
      no_load_rpm: null,
      no_load_v: null,
      air_c: null,
      warm_c: null,
      note: "",
    });
  return (
    <section aria-label="Bench tests" className="border-t border-hairline pt-2">
      {tests.length > 0 && (
        <ul className="m-0 mb-2 list-none p-0">
          {tests.map((test) => (
            <li key={test.note.id}>
              <button
                type="button"
                className="part-line"
                aria-pressed={test.note.id === held?.id}
                onClick={() => onChoose(test.note.id)}
              >
                <span className="min-w-0 flex-1 truncate text-left">{test.note.name}</span>
                <span className="tabular text-[13px] text-muted">
                  {test.share == null ? "" : say("fraction", test.share)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {picture.others.length > 0 && (
        <ul className="m-0 mb-2 list-none p-0">
          {picture.others.map((one) => (
            <li key={one.id}>
              <button
                type="button"
                className="part-line"
                aria-pressed={one.id === (other?.id ?? chosen)}
                onClick={() => onChoose(one.id)}
              >
                <span className="min-w-0 flex-1 truncate text-left">{one.name}</span>
                <span className="tabular text-[13px] text-muted">
                  {one.share == null ? "" : say("fraction", one.share)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <p className="m-0 mb-2 flex flex-wrap gap-x-4">
        <LinkButton onClick={add}>{tests.length === 0 ? "test a panel" : "test another panel"}</LinkButton>
        {bank && <LinkButton onClick={count}>count a bank</LinkButton>}
        {drive && <LinkButton onClick={pull}>try a motor</LinkButton>}
      </p>
      {other && <OtherFields key={other.id} id={other.id} onGone={() => onChoose(null)} />}
      {held && !other && (
        <div data-test={held.id}>
          <OwnText
            label="Which panel"
            value={held.name}
            onValue={(name) => name.trim() && put({ name: name.trim() })}
          />
          <div className="flex min-h-[30px] items-center justify-between gap-2">
            <label htmlFor={of}>Its label</label>
            <select
              id={of}
              className="h-[28px] max-w-[170px] rounded-[5px] border border-edge bg-field px-1 text-ink"
              value={held.group_id ?? ""}
              onChange={(event) => put({ group_id: event.target.value || null })}
            >
              <option value="">none of this design</option>
              {(design.panels ?? []).map((group) => (
                <option key={group.id} value={group.id}>
                  {group.model || `${group.nameplate_w} W`},{" "}
                  {design.places?.find((place) => place.id === group.place_id)?.name}
                </option>
              ))}
            </select>
          </div>
          <OwnField
            label="Light on it"
            kind="ratio"
            unit="W/m²"
            low={1}
            high={1600}
            hint="Measured in the panel's own plane; empty where nobody knows: fill and volts are judged all the same"
            value={held.irradiance_w_per_m2}
            onValue={(irradiance_w_per_m2) => put({ irradiance_w_per_m2 })}
          />
          <OwnField
            label="Known within"
            kind="fraction"
            low={0.005}
            high={0.5}
            value={held.light_known_frac}
            onValue={(value) => value !== null && put({ light_known_frac: value })}
          />
          <OwnField
            label="Its back"
            kind="temperature_c"
            low={-40}
            high={110}
            hint="A thermometer on the back of the panel"
            value={held.cell_c}
            onValue={(value) => value !== null && put({ cell_c: value })}
          />
          <Points
            key={held.id}
            points={held.points ?? []}
            off={shown?.off ?? []}
            onPoints={(points) => put({ points })}
          />
          <p className="m-0 mt-1 text-[13px]">
            <LinkButton
              onClick={() => {
                withdraw(held.id);
                onChoose(null);
                toast({
                  text: `${held.name}: the test is taken away.`,
                  action: { label: "put it back", run: () => note(held) },
                });
              }}
            >
              take this test away
            </LinkButton>
          </p>
        </div>
      )}
    </section>
  );
}

/** Volts and amps, one pair a line, as they are read off two meters or pasted from a sheet. */
function Points(props: {
  points: number[][];
  off: number[];
  onPoints: (points: [number, number][]) => void;
}) {
  const { points, off, onPoints } = props;
  const units = useUnits();
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const text = points.map(([volts, amps]) => `${volts} ${amps}`).join("\n");
  const commit = () => {
    if (draft === null) return;
    const found: [number, number][] = [];
    for (const [index, line] of draft.split("\n").entries()) {
      const cells = line
        .trim()
        .split(/\s*[;\t]\s*|\s+|,(?=\s)/)
        .filter((cell) => cell && !/^[VA]$/i.test(cell));
      if (cells.length === 0) continue;
      const volts = parsed(cells[0] ?? "", "voltage_v", units);
      const amps = parsed(cells[1] ?? "", "current_a", units);
      if (cells.length !== 2 || "problem" in volts || "problem" in amps)
        return setProblem(
          `Line ${index + 1} is “${line.trim().slice(0, 24)}”. Accepted: volts, then amps, such as 17.3 9.07.`,
        );
      if (volts.value < -5 || volts.value > 1500 || amps.value < -5 || amps.value > 500)
        return setProblem(`Line ${index + 1}: up to 1500 V and 500 A.`);
      found.push([volts.value, amps.value]);
    }
    if (found.length > 200) return setProblem("Up to 200 points.");
    setProblem(null);
    setDraft(null);
    onPoints(found);
  };
  return (
    <div className="mt-1">
      <label htmlFor={id}>Volts and amps, a pair a line</label>
      <textarea
        id={id}
        rows={7}
        className="mt-0.5 w-full rounded-[5px] border border-edge bg-field px-2 py-1 text-ink tabular"
        placeholder={"0 9.48\n17.3 9.07\n22.72 0"}
        spellCheck={false}
        aria-invalid={problem !== null}
        aria-describedby={problem ? `${id}-problem` : undefined}
        value={draft ?? text}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
      />
      {problem && (
        <p id={`${id}-problem`} role="alert" className="m-0 text-[13px] font-semibold text-alarm">
          ▲ {problem}
        </p>
      )}
      <p className="m-0 text-[13px] text-muted">
        Leads shorted: 0 V and the amps. Leads open: the volts and 0 A. Those two do; six more about the knee
        tell resistance.
        {off.length > 0 && ` Off the curve: ${off.map((i) => `point ${i + 1}`).join(", ")}.`}
      </p>
    </div>
  );
}
