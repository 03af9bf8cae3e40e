import type { BoatDesign } from "../../api/client";
import { useHullTypes } from "../../boat/hullTypes";
import { useDesign } from "../../kit/document";
import { ChoiceField, NumberField, TextField } from "../../kit/ui/fields";
import { shown, type Units } from "../../kit/units";
import { without, withTow } from "./parts";

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
  const { design, apply } = useDesign();
  const types = useHullTypes().data ?? [];
  return (
    <>
      <NumberField
        pointer="/plan/wind_mps"
        label="Wind"
        kind="speed_mps"
        step={1}
        hint="It cools the panels too"
      />
      <NumberField
        pointer="/plan/wind_angle_deg"
        label="Off the bow"
        kind="angle_deg"
        usual={null}
        step={15}
        hint="0 is on the nose, 180 from astern; empty means from anywhere, not counted as drag"
      />
      <NumberField
        pointer="/plan/wave_height_m"
        label="Waves from ahead"
        kind="length_m"
        step={0.1}
        hint="Significant height"
      />
      <NumberField
        pointer="/plan/current_mps"
        label="Stream, with you +"
        kind="speed_mps"
        step={0.1}
        hint="Along the course; speeds and ranges are through the water"
      />
      {(design.tows ?? []).map((tow, index) => (
        <fieldset key={tow.id} className="m-0 mt-1.5 border-0 border-t border-solid border-hairline p-0 pt-1">
          <legend className="sr-only">Tow {index + 1}</legend>
          <TextField pointer={`/tows/${index}/name`} label="In tow" width={150} />
          <ChoiceField
            pointer={`/tows/${index}/type`}
            label="Kind"
            options={types.map((item) => [item.type, item.label] as const)}
          />
          <NumberField
            pointer={`/tows/${index}/waterline_length_m`}
            label="Tow's length"
            kind="length_m"
            step={0.1}
          />
          <NumberField pointer={`/tows/${index}/beam_m`} label="Tow's beam" kind="length_m" step={0.05} />
          <NumberField pointer={`/tows/${index}/displacement_kg`} label="Tow's weight" kind="mass_kg" />
          <NumberField pointer={`/tows/${index}/count`} label="How many" kind="count" step={1} />
          <button
            type="button"
            className="link"
            onClick={() => apply((current) => without(current, "tows", tow.id), "tows")}
          >
            cast off
          </button>
        </fieldset>
      ))}
      {(design.tows ?? []).length < 6 && (
        <button type="button" className="link block" onClick={() => apply(withTow, "tows")}>
          take something in tow
        </button>
      )}
    </>
  );
}
