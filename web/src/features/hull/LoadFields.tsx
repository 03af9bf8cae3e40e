import type { HullPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { NumberField } from "../../kit/ui/fields";
import { shown } from "../../kit/units";

const COMPUTED = ["bank", "panels"];

/** The displacement by its parts: a heavier bank costs speed by itself. */
export function LoadFields({ weights }: { weights: HullPicture["weights"] }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  if (!design.loading)
    return (
      <>
        <p className="mt-0 mb-1 text-muted">
          The boat is weighed as a whole. By its parts, a heavier bank or one more panel costs speed by
          itself.
        </p>
        <button
          type="button"
          className="link"
          onClick={() =>
            apply(
              (current) => ({
                ...current,
                loading: {
                  boat_kg: current.hull.displacement_kg ?? 500,
                  crew_kg: 0,
                  gear_kg: 0,
                  water_kg: 0,
                },
              }),
              "loading",
            )
          }
        >
          add it up from parts
        </button>
      </>
    );
  return (
    <>
      <NumberField
        pointer="/loading/boat_kg"
        label="Boat, empty"
        kind="mass_kg"
        hint="With its motor, without its bank"
      />
      <NumberField pointer="/loading/crew_kg" label="Crew" kind="mass_kg" />
      <NumberField pointer="/loading/gear_kg" label="Gear" kind="mass_kg" />
      <NumberField pointer="/loading/water_kg" label="Water and fuel" kind="mass_kg" />
      {weights
        .filter((part) => COMPUTED.includes(part.name))
        .map((part) => (
          <p key={part.name} className="m-0 mb-1 flex justify-between pr-[34px]">
            <span>{part.name === "bank" ? "Bank, from its station" : "Panels"}</span>
            <span className="tabular">
              {shown({ quantity: "mass_kg", value: part.mass_kg, signed: false }, units)}
            </span>
          </p>
        ))}
      {design.hull.displacement_kg != null && (
        <p className="m-0 text-[13px] text-muted">
          The all-up weight you gave counts. Empty it to use these parts.
        </p>
      )}
    </>
  );
}
