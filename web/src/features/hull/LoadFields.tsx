import type { HullPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";
import { Fields } from "../../kit/ui/Field";
import { LinkButton } from "../../kit/ui/LinkButton";

const COMPUTED = ["bank", "panels"];

/** The displacement by its parts: a heavier bank costs speed by itself. */
export function LoadFields({ weights }: { weights: HullPicture["weights"] }) {
  const { design, apply, entries } = useDesign();
  const say = useSay();
  const weighed = design.hull.displacement_kg;
  if (!design.loading)
    return (
      <>
        <p className="mt-0 mb-1 text-muted">
          The boat is weighed as a whole. By its parts, a heavier bank or one more panel costs speed by
          itself.
        </p>
        <LinkButton
          onClick={() =>
            apply((current) => {
              const begun = entries.begun("/loading", weighed == null ? {} : { boat_kg: weighed });
              return withValue(current, "/loading", begun);
            }, "loading")
          }
        >
          add it up from parts
        </LinkButton>
      </>
    );
  return (
    <>
      <Fields at="/loading" of="boat_kg crew_kg gear_kg water_kg" />
      {weights
        .filter((part) => COMPUTED.includes(part.name))
        .map((part) => (
          <p key={part.name} className="m-0 mb-1 flex justify-between pr-[34px]">
            <span>{part.name === "bank" ? "Bank, from its station" : "Panels"}</span>
            <span className="tabular">{say("mass_kg", part.mass_kg)}</span>
          </p>
        ))}
      {weighed != null && (
        <p className="m-0 text-[13px] text-muted">
          The all-up weight you gave counts. Empty it to use these parts.
        </p>
      )}
    </>
  );
}
