import { useId } from "react";
import { Link } from "react-router";
import type { FitoutPicture, RecordOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay, useUnits } from "../../kit/preferences";
import { useNoted, useRecords } from "../../kit/records";
import { useToast } from "../../kit/Toast";
import { LinkButton } from "../../kit/ui/LinkButton";
import { OwnField, OwnText } from "../../kit/ui/OwnField";
import { Heading } from "../../kit/ui/Page";
import { told } from "../../kit/units";

type Other = FitoutPicture["others"][number];

/** What was read of a bank's count, or of a motor's trial. */
export function OtherFields({ id, onGone }: { id: string; onGone: () => void }) {
  const { design } = useDesign();
  const { note, withdraw } = useRecords();
  const toast = useToast();
  const bank = useNoted("bank_test", (one) => one.id === id);
  const motor = useNoted("motor_test", (one) => one.id === id);
  const held = bank ?? motor;
  if (!held) return null;
  const gone = () => {
    withdraw(id);
    onGone();
    toast({ text: "The test is taken away.", action: { label: "put it back", run: () => note(held) } });
  };
  return (
    <div data-test={id}>
      {bank && (
        <BankFields bank={bank} put={(change) => note({ ...bank, ...change })} banks={design.banks ?? []} />
      )}
      {motor && (
        <MotorFields motor={motor} put={(change) => note({ ...motor, ...change })} drives={design.drives} />
      )}
      <p className="m-0 mt-1 text-[13px]">
        <LinkButton onClick={gone}>take this test away</LinkButton>
      </p>
    </div>
  );
}

function Which(props: {
  label: string;
  value: string;
  of: { id: string; name: string }[];
  onValue: (id: string) => void;
}) {
  const id = useId();
  return (
    <div className="flex min-h-[30px] items-center justify-between gap-2">
      <label htmlFor={id}>{props.label}</label>
      <select
        id={id}
        className="h-[28px] max-w-[170px] rounded-[5px] border border-edge bg-field px-1 text-ink"
        value={props.value}
        onChange={(event) => props.onValue(event.target.value)}
      >
        {props.of.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </div>
  );
}

function BankFields(props: {
  bank: RecordOf<"bank_test">;
  put: (change: Partial<RecordOf<"bank_test">>) => void;
  banks: { id: string; name: string }[];
}) {
  const { bank, put, banks } = props;
  return (
    <>
      <Which label="Which bank" value={bank.bank_id} of={banks} onValue={(bank_id) => put({ bank_id })} />
      <OwnField
        label="Counted"
        kind="capacity_ah"
        low={0.1}
        high={100_000}
        hint="Amp-hours from full to where it cuts out"
        value={bank.counted_ah}
        onValue={(counted_ah) => put({ counted_ah })}
      />
      <OwnField
        label="In"
        kind="duration_h"
        low={0.1}
        high={400}
        value={bank.hours}
        onValue={(hours) => hours !== null && put({ hours })}
      />
      <OwnField
        label="How warm it was"
        kind="temperature_c"
        low={-20}
        high={60}
        value={bank.temperature_c}
        onValue={(value) => value !== null && put({ temperature_c: value })}
      />
    </>
  );
}

function MotorFields(props: {
  motor: RecordOf<"motor_test">;
  put: (change: Partial<RecordOf<"motor_test">>) => void;
  drives: { id: string; name: string }[];
}) {
  const { motor, put, drives } = props;
  return (
    <>
      <Which
        label="Which motor"
        value={motor.drive_id}
        of={drives}
        onValue={(drive_id) => put({ drive_id })}
      />
      <OwnText
        label="What is tried"
        value={motor.name}
        onValue={(name) => name.trim() && put({ name: name.trim() })}
      />
      <OwnField
        label="Volts"
        kind="voltage_v"
        low={0.1}
        high={1_200}
        value={motor.volts}
        onValue={(volts) => put({ volts })}
      />
      <OwnField
        label="Amps"
        kind="current_a"
        low={0.1}
        high={5_000}
        value={motor.amps}
        onValue={(amps) => put({ amps })}
      />
      <OwnField
        label="Pull at the dock"
        kind="force_n"
        low={0.1}
        high={100_000}
        hint="On a scale in the line, the boat at rest; lines and people clear"
        value={motor.pull_n}
        onValue={(pull_n) => put({ pull_n })}
      />
      <OwnField
        label="Turning free"
        kind="rpm"
        low={1}
        high={100_000}
        value={motor.no_load_rpm}
        onValue={(no_load_rpm) => put({ no_load_rpm })}
      />
      <OwnField
        label="free at"
        kind="voltage_v"
        low={0.1}
        high={1_200}
        value={motor.no_load_v}
        onValue={(no_load_v) => put({ no_load_v })}
      />
      <OwnField
        label="What cools it"
        kind="temperature_c"
        low={-40}
        high={60}
        value={motor.air_c}
        onValue={(air_c) => put({ air_c })}
      />
      <OwnField
        label="Housing, 10 min"
        kind="temperature_c"
        low={-40}
        high={250}
        hint="After ten minutes under that load; do not touch the propeller"
        value={motor.warm_c}
        onValue={(warm_c) => put({ warm_c })}
      />
    </>
  );
}

/** What a count or a trial comes to, and the entry of the design that it can set. */
export function OtherView({ test }: { test: Other }) {
  const { apply, variant } = useDesign();
  const units = useUnits();
  const say = useSay();
  const kind = test.kind === "bank_test" ? "fraction" : "power_w";
  const { at, value } = test;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label={test.name}>
      <Heading
        title={told(test.title, units)}
        in={
          test.kind === "bank_test"
            ? "counted from full to its cut-out"
            : "on the bench, or pulling at the dock"
        }
      />
      {test.share != null && (
        <svg
          width="100%"
          height="46"
          viewBox="0 0 600 46"
          preserveAspectRatio="xMinYMid meet"
          aria-hidden="true"
        >
          <rect x="1" y="8" width="500" height="26" fill="none" stroke="var(--edge)" strokeDasharray="4 3" />
          <rect
            x="1"
            y="8"
            width={Math.min(test.share, 1.19) * 500}
            height="26"
            fill="var(--bank-soft)"
            stroke="var(--bank)"
          />
          <text x="506" y="26" fontSize="13" fill="var(--muted)">
            its label
          </text>
        </svg>
      )}
      <ul className="m-0 max-w-[64ch] list-none p-0 leading-7" data-found>
        {test.lines.map((line) => (
          <li key={line.text}>{told(line, units)}</li>
        ))}
      </ul>
      {test.kind === "motor_test" && (
        <p className="mt-2 max-w-[64ch] text-[13px] text-muted">
          Gear and propellers are told apart by runs: measure a set with each in the{" "}
          <Link className="link" to={`/hull/${variant.id}`}>
            Hull
          </Link>
          , both ways, and hold one against the other.
        </p>
      )}
      {at != null && value != null && (
        <p className="no-print m-0 mt-2">
          {test.counts != null && `The design counts ${say(kind, test.counts)}. `}
          <LinkButton onClick={() => apply((current) => withValue(current, at, value), at)}>
            count {say(kind, value)} in the design
          </LinkButton>
        </p>
      )}
    </div>
  );
}
