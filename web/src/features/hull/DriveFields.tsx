import type { BoatDesign, Drive } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { AddPart, Begin, Field, Fields, RemovePart } from "../../kit/ui/Field";
import { shown, type Units } from "../../kit/units";

export function driveSummary(drive: Drive, units: Units): string {
  const many = (drive.count ?? 1) > 1 ? `${drive.count} × ` : "";
  if (drive.rating === "thrust")
    return `${many}${shown({ quantity: "force_n", value: drive.static_thrust_n ?? 0, signed: false }, units)} of thrust`;
  const watts = shown({ quantity: "power_w", value: drive.rated_power_w ?? 0, signed: false }, units);
  return `${many}${watts}${drive.propeller ? ", propeller known" : ""}`;
}

/** One motor with its gear and propeller. */
export function DriveFields({ index }: { index: number }) {
  const { design, entries } = useDesign();
  const drive = design.drives[index];
  if (!drive) return null;
  const at = `/drives/${index}`;
  const thrust = drive.rating === "thrust";

  /** What a label's number means; a number that the new meaning needs starts at a usual one. */
  function rated(current: BoatDesign, rating: string): BoatDesign {
    const needed = `${at}/${rating === "thrust" ? "static_thrust_n" : "rated_power_w"}`;
    const held = rating === "thrust" ? drive?.static_thrust_n : drive?.rated_power_w;
    return withValue(withValue(current, `${at}/rating`, rating), needed, held ?? entries.begun(needed));
  }

  return (
    <>
      <Fields at={at} of="name count" />
      <Field at={`${at}/rating`} width={140} write={rated} />
      <Fields
        at={at}
        of={thrust ? "static_thrust_n full_thrust_current_a full_thrust_v stepped" : "rated_power_w"}
      />
      <Fields at={at} of="overall_efficiency idle_power_w mass_kg price" />
      {drive.propeller && (
        <>
          <h3 className="mt-2 mb-0.5 text-[13px] font-bold text-muted">Propeller</h3>
          <Fields at={`${at}/propeller`} of="diameter_m pitch_m blades depth_m clearance_m" />
          <Field at={`${at}/gear_ratio`} />
        </>
      )}
      <Begin at={`${at}/propeller`} words="enter the propeller" none="propeller not known" />
      {!thrust && drive.motor && (
        <>
          <h3 className="mt-2 mb-0.5 text-[13px] font-bold text-muted">Motor constants</h3>
          <Fields
            at={`${at}/motor`}
            of="kv_rpm_per_v no_load_rpm no_load_current_a volts resistance_ohm current_limit_a continuous_power_w"
          />
        </>
      )}
      {!thrust && <Begin at={`${at}/motor`} words="enter the motor's constants" none="constants not known" />}
      {index === design.drives.length - 1 && <AddPart to="/drives" words="add another motor" />}
      {design.drives.length > 1 && <RemovePart from="/drives" id={drive.id} words="remove this motor" />}
    </>
  );
}
