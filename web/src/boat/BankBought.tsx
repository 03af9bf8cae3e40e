import { ChoiceField, NumberField } from "../kit/ui/fields";
import { CHEMISTRIES } from "./banks";

/** A bank as it was bought: what one unit is, and how they are joined. */
export function BankBought({ index }: { index: number }) {
  const at = `/banks/${index}`;
  return (
    <>
      <ChoiceField pointer={`${at}/chemistry`} label="Chemistry" options={CHEMISTRIES} />
      <NumberField
        pointer={`${at}/unit_v`}
        label="Volts of one unit"
        kind="voltage_v"
        step={0.4}
        hint="On the label of one battery or cell: nominal volts"
      />
      <NumberField
        pointer={`${at}/unit_ah`}
        label="Amp-hours of one"
        kind="capacity_ah"
        step={10}
        hint="At those volts; for lead over twenty hours"
      />
      <NumberField
        pointer={`${at}/series`}
        label="In series"
        kind="count"
        step={1}
        hint="Series adds volts, never amp-hours"
      />
      <NumberField
        pointer={`${at}/parallel`}
        label="In parallel"
        kind="count"
        step={1}
        hint="Parallel adds amp-hours, never volts"
      />
    </>
  );
}
