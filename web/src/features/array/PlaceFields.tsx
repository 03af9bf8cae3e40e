import type { BoatDesign } from "../../api/client";
import { AIR, FASTENINGS, HOWS, KINDS, SIDES, STATES, TENDED, UNDER } from "../../boat/words";
import { useDesign } from "../../kit/document";
import { ChoiceField, NumberField, TextField } from "../../kit/ui/fields";
import { withHinge, withoutPlace, withPosition } from "./parts";

type Place = NonNullable<BoatDesign["places"]>[number];

interface Props {
  index: number;
  place: Place;
}

/** What a place is, where on the boat, and how large. */
export function WhereFields({ index, place }: Props) {
  const { apply } = useDesign();
  const at = (entry: string) => `/places/${index}/${entry}`;
  return (
    <>
      <TextField pointer={at("name")} label="Name" width={150} />
      <ChoiceField pointer={at("kind")} label="It is" options={KINDS} />
      {place.at ? (
        <>
          <NumberField
            pointer={at("at/x_m")}
            label="To starboard"
            kind="length_m"
            step={0.05}
            hint="Of its middle from the centreline; to port is negative"
          />
          <NumberField
            pointer={at("at/y_m")}
            label="Forward"
            kind="length_m"
            step={0.05}
            hint="Of its middle from amidships; aft is negative"
          />
          <NumberField
            pointer={at("at/z_m")}
            label="Height"
            kind="length_m"
            step={0.05}
            hint="Above the waterline"
          />
        </>
      ) : (
        <button type="button" className="link" onClick={() => apply((d) => withPosition(d, index), at("at"))}>
          give it a position
        </button>
      )}
      <NumberField pointer={at("width_m")} label="Athwart" kind="length_m" usual={null} step={0.05} />
      <NumberField pointer={at("length_m")} label="Fore and aft" kind="length_m" usual={null} step={0.05} />
      <button type="button" className="link" onClick={() => apply((d) => withoutPlace(d, place.id), "place")}>
        remove it with its panels
      </button>
    </>
  );
}

/** Its tilt, its hinge, and how it stands in each state of the boat. */
export function StandsFields({ index, place }: Props) {
  const { apply } = useDesign();
  const at = (entry: string) => `/places/${index}/${entry}`;
  const hinged = place.tilt_most_deg != null;
  const tilts =
    hinged || (place.tilt_deg ?? 0) > 0 || STATES.some(([state]) => place.stands?.[state]?.how === "tilted");
  return (
    <>
      <NumberField pointer={at("tilt_deg")} label="Tilt; flat is 0" kind="angle_deg" step={5} />
      {tilts && <ChoiceField pointer={at("faces")} label="Tilted" options={SIDES} />}
      {hinged ? (
        <>
          <NumberField
            pointer={at("tilt_least_deg")}
            label="Hinge, from"
            kind="angle_deg"
            usual={0}
            step={5}
          />
          <NumberField
            pointer={at("tilt_most_deg")}
            label="Hinge, to"
            kind="angle_deg"
            usual={null}
            step={5}
          />
          <ChoiceField pointer={at("tended")} label="Through the day" options={TENDED} />
          <button
            type="button"
            className="link"
            onClick={() => apply((d) => withHinge(d, index, false), "hinge")}
          >
            it has no hinge
          </button>
        </>
      ) : (
        <button
          type="button"
          className="link"
          onClick={() => apply((d) => withHinge(d, index, true), "hinge")}
        >
          give it a hinge
        </button>
      )}
      <h3 className="mt-2 mb-0.5 text-[13.5px] font-bold text-muted">In each state of the boat</h3>
      {STATES.map(([state, words]) => (
        <div key={state} className="mb-1 grid min-h-[30px] grid-cols-[1fr_auto_auto] items-center gap-x-1.5">
          <span>{words}</span>
          <ChoiceField
            bare
            pointer={at(`stands/${state}/how`)}
            label={`How it stands ${words}`}
            options={HOWS}
            width={88}
          />
          <span className="w-[66px]">
            {place.stands?.[state]?.how === "tilted" && (
              <>
                <NumberField
                  bare
                  pointer={at(`stands/${state}/tilt_deg`)}
                  label="Tilt"
                  name={`Tilt ${words}`}
                  kind="angle_deg"
                  step={5}
                  width={48}
                />
                °
              </>
            )}
          </span>
        </div>
      ))}
    </>
  );
}

/** What lies under it, who must get past, and what holds it. */
export function AroundFields({ index, place }: Props) {
  const at = (entry: string) => `/places/${index}/${entry}`;
  return (
    <>
      <ChoiceField pointer={at("ventilation")} label="Cooling" options={AIR} />
      <ChoiceField pointer={at("under")} label="Under it" options={UNDER} />
      {place.under !== "water" && (
        <NumberField
          pointer={at("gap_m")}
          label="Gap to that"
          kind="length_m"
          usual={0.05}
          step={0.05}
          hint="Two-sided panels see what is under them through it; the closer, the less"
        />
      )}
      <NumberField
        pointer={at("clear_m")}
        label="Kept clear"
        kind="length_m"
        step={0.05}
        hint="Athwart, for people and gear to pass; Fit leaves it free"
      />
      <ChoiceField pointer={at("fastening")} label="Held by" options={FASTENINGS} />
      <NumberField
        pointer={at("holds_n")}
        label="They take"
        kind="ratio"
        unit="N"
        usual={null}
        step={50}
        hint="Pull that all its fastenings take together before anything gives, by test or by the builder"
      />
    </>
  );
}
