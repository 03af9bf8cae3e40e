import type { BoatDesign } from "../../api/client";
import { withoutPlace } from "../../boat/panels";
import { useDesign } from "../../kit/document";
import { Begin, Field, Fields } from "../../kit/ui/Field";
import { LinkButton } from "../../kit/ui/LinkButton";
import { hasOtherSide, overAgainst, setAlike, withBothAlike, withHinge, withOtherSide } from "./parts";

type Place = NonNullable<BoatDesign["places"]>[number];
type State = keyof NonNullable<Place["stands"]>;

interface Props {
  index: number;
  place: Place;
}

/** What a place is, where on the boat, and how large. */
export function WhereFields({ index, place }: Props) {
  const { design, apply, entries } = useDesign();
  const at = `/places/${index}`;
  return (
    <>
      <Fields at={at} of="name kind" />
      {place.at && <Fields at={`${at}/at`} of="x_m y_m z_m" />}
      <Begin at={`${at}/at`} words="give it a position" />
      <Fields at={at} of="width_m length_m" />
      {hasOtherSide(place) && !overAgainst(design, place) && (
        <LinkButton className="block" onClick={() => apply((d) => withOtherSide(d, place.id), "place")}>
          the same on the other side
        </LinkButton>
      )}
      <LinkButton onClick={() => apply((d) => withoutPlace(d, entries, place.id), "place")}>
        remove it with its panels
      </LinkButton>
    </>
  );
}

/** Its tilt, its hinge, and how it stands in each state of the boat. */
export function StandsFields({ index, place }: Props) {
  const { design, apply, entries } = useDesign();
  const other = overAgainst(design, place);
  const at = `/places/${index}`;
  const states = entries.options("/plan/state");
  const stands = (state: string) => place.stands?.[state as State]?.how;
  const hinged = place.tilt_most_deg != null;
  const tilts = hinged || (place.tilt_deg ?? 0) > 0 || states.some(([state]) => stands(state) === "tilted");
  const hinge = () => apply((d) => withHinge(d, entries, index, !hinged), "hinge");
  return (
    <>
      <Field at={`${at}/tilt_deg`} />
      {tilts && <Field at={`${at}/faces`} />}
      {hinged && <Fields at={at} of="tilt_least_deg tilt_most_deg tended" />}
      <LinkButton onClick={hinge}>{hinged ? "it has no hinge" : "give it a hinge"}</LinkButton>
      {other && !setAlike(place, other) && (
        <LinkButton className="block" onClick={() => apply((d) => withBothAlike(d, place.id), "alike")}>
          set {other.name} as this one
        </LinkButton>
      )}
      <h3 className="mt-2 mb-0.5 text-[13.5px] font-bold text-muted">In each state of the boat</h3>
      {states.map(([state, words]) => (
        <div key={state} className="mb-1 grid min-h-[30px] grid-cols-[1fr_auto_auto] items-center gap-x-1.5">
          <span>{words}</span>
          <Field bare at={`${at}/stands/${state}/how`} label={`How it stands ${words}`} width={88} />
          <span className="w-[66px]">
            {stands(state) === "tilted" && (
              <>
                <Field bare at={`${at}/stands/${state}/tilt_deg`} label={`Tilt ${words}`} width={48} />°
              </>
            )}
          </span>
        </div>
      ))}
    </>
  );
}

/** What lies under it, who must get past, and what holds it. */
export function AroundFields({ index }: { index: number }) {
  const at = `/places/${index}`;
  return (
    <>
      <Fields at={at} of="ventilation under" />
      <Field at={`${at}/gap_m`} ifUsual />
      <Fields at={at} of="clear_m fastening holds_n" />
    </>
  );
}
