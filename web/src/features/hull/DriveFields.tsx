import type { Drive, HullPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { CheckField, ChoiceField, NumberField, TextField } from "../../kit/ui/fields";
import { shown, type Units } from "../../kit/units";
import {
  withDrive,
  withMotor,
  withoutDrive,
  withoutMotor,
  withoutPropeller,
  withPropeller,
  withRating,
} from "./parts";

const RATINGS = [
  ["battery", "watts it takes"],
  ["shaft", "watts at the shaft"],
  ["thrust", "thrust"],
] as const;
const BLADES = ["2", "3", "4", "5", "6"].map((n) => [n, n] as const);

export function driveSummary(drive: Drive, units: Units): string {
  const many = (drive.count ?? 1) > 1 ? `${drive.count} × ` : "";
  if (drive.rating === "thrust") return `${many}${drive.static_thrust_n?.toFixed(0)} N thrust`;
  const watts = shown({ quantity: "power_w", value: drive.rated_power_w ?? 0, signed: false }, units);
  return `${many}${watts}${drive.propeller ? ", propeller known" : ""}`;
}

/** One motor with its gear and propeller. */
export function DriveFields({
  index,
  efficiency,
  picture,
}: {
  index: number;
  efficiency: number | null;
  picture: HullPicture | undefined;
}) {
  const { design, apply } = useDesign();
  const drive = design.drives[index];
  if (!drive) return null;
  const at = `/drives/${index}`;
  const thrust = drive.rating === "thrust";
  const worked = index === 0 && drive.overall_efficiency == null ? (picture?.efficiency ?? null) : efficiency;
  return (
    <>
      <TextField pointer={`${at}/name`} label="Called" width={150} />
      <NumberField pointer={`${at}/count`} label="How many alike" kind="count" step={1} />
      <ChoiceField
        pointer={`${at}/rating`}
        label="Its label gives"
        options={RATINGS}
        width={140}
        write={(current, value) => withRating(current, index, value as Drive["rating"])}
      />
      {thrust ? (
        <>
          <NumberField
            pointer={`${at}/static_thrust_n`}
            label="Thrust"
            kind="ratio"
            unit="N"
            step={5}
            hint="Static thrust; one pound of thrust is 4.45 newtons"
          />
          <NumberField
            pointer={`${at}/full_thrust_current_a`}
            label="Amps at full thrust"
            kind="current_a"
            usual={null}
            step={1}
            hint="From the label, where it has them; empty means usual for such motors"
          />
          <NumberField
            pointer={`${at}/full_thrust_v`}
            label="Rated at"
            kind="voltage_v"
            usual={12}
            step={12}
          />
          <CheckField pointer={`${at}/stepped`} label="Fixed speeds, by resistor" />
        </>
      ) : (
        <NumberField
          pointer={`${at}/rated_power_w`}
          label={drive.rating === "shaft" ? "Shaft power" : "Most it takes"}
          kind="power_w"
          hint={drive.rating === "shaft" ? "Watts at the propeller shaft" : "Battery watts at full throttle"}
        />
      )}
      <NumberField
        pointer={`${at}/overall_efficiency`}
        label="Battery to thrust"
        kind="fraction"
        usual={worked}
        step={1}
        hint="Share of battery watts that becomes thrust times speed; empty means worked out link by link, or usual for this type"
      />
      <NumberField
        pointer={`${at}/idle_power_w`}
        label="Draw when idling"
        kind="power_w"
        step={1}
        hint="On, but not turning"
      />
      {drive.propeller ? (
        <>
          <h3 className="mt-2 mb-0.5 text-[13px] font-bold text-muted">Propeller</h3>
          <NumberField pointer={`${at}/propeller/diameter_m`} label="Diameter" kind="length_m" step={0.01} />
          <NumberField
            pointer={`${at}/propeller/pitch_m`}
            label="Pitch"
            kind="length_m"
            step={0.01}
            hint="How far it would screw forward in a turn"
          />
          <ChoiceField
            pointer={`${at}/propeller/blades`}
            label="Blades"
            options={BLADES}
            width={64}
            write={(current, value) => ({
              ...current,
              drives: current.drives.map((item, i) =>
                i === index && item.propeller
                  ? { ...item, propeller: { ...item.propeller, blades: Number(value) } }
                  : item,
              ),
            })}
          />
          <NumberField
            pointer={`${at}/propeller/depth_m`}
            label="Shaft below surface"
            kind="length_m"
            usual={null}
            step={0.05}
            hint="To the middle of the propeller; in a chop a shallow one draws air"
          />
          <NumberField
            pointer={`${at}/propeller/clearance_m`}
            label="Tips to the hull"
            kind="length_m"
            usual={null}
            step={0.01}
          />
          <NumberField
            pointer={`${at}/gear_ratio`}
            label="Gear, motor to 1"
            kind="ratio"
            unit=": 1"
            step={0.25}
            hint="Motor turns for one turn of the propeller; 1 is direct"
          />
          <button
            type="button"
            className="link"
            onClick={() => apply((current) => withoutPropeller(current, index), "propeller")}
          >
            propeller not known
          </button>
        </>
      ) : (
        <button
          type="button"
          className="link block"
          onClick={() => apply((current) => withPropeller(current, index), "propeller")}
        >
          enter the propeller
        </button>
      )}
      {!thrust && drive.motor ? (
        <>
          <h3 className="mt-2 mb-0.5 text-[13px] font-bold text-muted">Motor constants</h3>
          <NumberField
            pointer={`${at}/motor/kv_rpm_per_v`}
            label="Kv"
            kind="ratio"
            unit="/V"
            usual={null}
            step={1}
            hint="Revolutions a minute per volt; or give the no-load speed"
          />
          <NumberField
            pointer={`${at}/motor/no_load_rpm`}
            label="No-load speed"
            kind="rpm"
            usual={null}
            step={50}
          />
          <NumberField
            pointer={`${at}/motor/no_load_current_a`}
            label="No-load amps"
            kind="current_a"
            usual={null}
            step={0.5}
          />
          <NumberField
            pointer={`${at}/motor/volts`}
            label="Its volts"
            kind="voltage_v"
            usual={null}
            step={12}
            hint="Empty means the bank's"
          />
          <NumberField
            pointer={`${at}/motor/resistance_ohm`}
            label="Winding"
            kind="ratio"
            unit="Ω"
            usual={null}
            step={0.001}
          />
          <NumberField
            pointer={`${at}/motor/current_limit_a`}
            label="Current limit"
            kind="current_a"
            usual={null}
            step={5}
          />
          <NumberField
            pointer={`${at}/motor/continuous_power_w`}
            label="All day it gives"
            kind="power_w"
            usual={null}
            step={100}
            hint="Continuous rating, at the shaft"
          />
          <button
            type="button"
            className="link"
            onClick={() => apply((current) => withoutMotor(current, index), "motor")}
          >
            constants not known
          </button>
        </>
      ) : (
        !thrust && (
          <button
            type="button"
            className="link block"
            onClick={() => apply((current) => withMotor(current, index), "motor")}
          >
            enter the motor's constants
          </button>
        )
      )}
      {design.drives.length < 4 && index === design.drives.length - 1 && (
        <button type="button" className="link block" onClick={() => apply(withDrive, "drives")}>
          add another motor
        </button>
      )}
      {design.drives.length > 1 && (
        <button
          type="button"
          className="link block"
          onClick={() => apply((current) => withoutDrive(current, drive.id), "drives")}
        >
          remove this motor
        </button>
      )}
    </>
  );
}
