import type { BoatDesign } from "../../api/client";
import { useDesign } from "../../kit/document";
import { AddPart, Fields, RemovePart } from "../../kit/ui/Field";
import { Item } from "../../kit/ui/fields";
import { shown, type Units } from "../../kit/units";

export function seawaySummary(design: BoatDesign, units: Units): string {
  const plan = design.plan;
  const speed = (value: number) => shown({ quantity: "speed_mps", value, signed: false }, units);
  const parts = [
    plan.wind_angle_deg != null && `wind ${speed(plan.wind_mps ?? 0)}`,
    (plan.wave_height_m ?? 0) > 0 && "waves",
    (plan.current_mps ?? 0) !== 0 && "stream",
    (design.tows ?? []).length > 0 && "a tow",
  ].filter(Boolean);
  return parts.length ? parts.join(", ") : "calm, alone";
}

/** Wind, waves and stream as the boat meets them, and what it tows. */
export function Seaway() {
  const { design } = useDesign();
  return (
    <>
      <Fields at="/plan" of="wind_mps wind_angle_deg wave_height_m current_mps" />
      {(design.tows ?? []).map((tow, index) => (
        <Item key={tow.id} title={`Tow ${index + 1}`} quiet>
          <Fields at={`/tows/${index}`} of="name type waterline_length_m beam_m displacement_kg count" />
          <RemovePart from="/tows" id={tow.id} words="cast off" />
        </Item>
      ))}
      <AddPart to="/tows" words="take something in tow" />
    </>
  );
}
