import type { HullPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { ChoiceField, NumberField } from "../../kit/ui/fields";

const BOTTOMS = [
  ["0.0004", "clean and fair"],
  ["0.001", "rough or slimy"],
  ["0.0015", "weed and barnacles"],
] as const;
const RISING = ["skiff", "inflatable", "planing_boat"];
const TWO = ["catamaran", "pontoon"];

/** Form numbers for those who have them; empty ones are usual for the type. */
export function ExactForm({ picture }: { picture: HullPicture | undefined }) {
  const { design } = useDesign();
  const usual = picture?.usual;
  const type = design.hull.type ?? "launch";
  const held = String(design.hull.correlation_allowance ?? 0.0004);
  const bottoms = BOTTOMS.some(([value]) => value === held)
    ? BOTTOMS
    : ([...BOTTOMS, [held, `allowance ${held}`]] as const);
  return (
    <>
      {picture && (
        <p className="mt-0 mb-1.5 text-[13px] text-muted">
          Computed by {picture.model}: {picture.model_reason}.
        </p>
      )}
      <ChoiceField
        pointer="/hull/correlation_allowance"
        label="Bottom"
        options={bottoms}
        width={150}
        write={(current, value) => ({
          ...current,
          hull: { ...current.hull, correlation_allowance: Number(value) },
        })}
      />
      <NumberField
        pointer="/hull/prismatic_coefficient"
        label="Prismatic, Cp"
        kind="ratio"
        usual={usual?.prismatic_coefficient ?? null}
        step={0.01}
        hint="Fullness of the ends: volume over midship section times length"
      />
      <NumberField
        pointer="/hull/midship_coefficient"
        label="Midship, Cm"
        kind="ratio"
        usual={usual?.midship_coefficient ?? null}
        step={0.01}
        hint="Fullness of the midship section"
      />
      <NumberField
        pointer="/hull/waterplane_coefficient"
        label="Waterplane, Cwp"
        kind="ratio"
        usual={usual?.waterplane_coefficient ?? null}
        step={0.01}
        hint="Waterline area over length times beam"
      />
      <NumberField
        pointer="/hull/lcb_percent"
        label="LCB, forward +"
        kind="ratio"
        unit="%"
        usual={usual?.lcb_percent ?? null}
        step={0.5}
        hint="Centre of buoyancy from amidships, in percent of the length"
      />
      <NumberField
        pointer="/hull/margin"
        label="Service margin"
        kind="ratio"
        unit="×"
        usual={usual?.margin ?? null}
        step={0.05}
        hint="Real resistance over the smooth model"
      />
      <NumberField
        pointer="/hull/appendage_area_m2"
        label="Keel and rudder"
        kind="ratio"
        unit="m²"
        step={0.1}
        hint="Wetted area beyond what the margin holds"
      />
      <NumberField
        pointer="/hull/frontal_area_m2"
        label="Area in the wind"
        kind="ratio"
        unit="m²"
        usual={picture?.frontal_area_m2 ?? null}
        step={0.5}
        hint="Seen from ahead, canopy and crew too"
      />
      {(picture?.raised_panels_m2 ?? 0) > 0 && (
        <p className="m-0 mb-1 text-[13px] text-muted">
          and {picture?.raised_panels_m2.toFixed(2)} m² of panels that stand up to bow or stern
        </p>
      )}
      <NumberField
        pointer="/hull/air_drag_coefficient"
        label="Its drag, Cd"
        kind="ratio"
        usual={usual?.air_drag_coefficient ?? null}
        step={0.05}
      />
      {TWO.includes(type) && (
        <NumberField
          pointer="/hull/spacing_m"
          label="Between hulls"
          kind="length_m"
          usual={usual?.spacing_m ?? null}
          step={0.1}
          hint="Centreline to centreline"
        />
      )}
      {(RISING.includes(type) || (usual?.transom_depth_m ?? 0) > 0) && (
        <NumberField
          pointer="/hull/transom_depth_m"
          label="Transom, immersed"
          kind="length_m"
          usual={usual?.transom_depth_m ?? null}
          step={0.01}
        />
      )}
      {RISING.includes(type) && (
        <>
          <NumberField pointer="/hull/deadrise_deg" label="Deadrise" kind="angle_deg" usual={10} step={1} />
          <NumberField
            pointer="/hull/lcg_share"
            label="Weight from the transom"
            kind="fraction"
            usual={0.4}
            step={1}
            hint="Centre of gravity as a share of the length"
          />
        </>
      )}
    </>
  );
}
