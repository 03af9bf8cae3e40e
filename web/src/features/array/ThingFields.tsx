import type { ArrayAdvice, BoatState } from "../../api/client";
import { SHAPES, STATES } from "../../boat/words";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { ChoiceField, NumberField, TextField } from "../../kit/ui/fields";
import { shown } from "../../kit/units";
import { withoutThing, withShape, withThing, withThingIn } from "./parts";

/** What throws shade: masts, booms, stays, a cabin, the crew, a sail; each in the states it stands in. */
export function ThingFields({ advice }: { advice: ArrayAdvice | undefined }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const things = design.obstacles ?? [];
  return (
    <>
      {things.length === 0 && (
        <p className="mt-0 mb-1 text-muted">Nothing yet. Masts, booms, aerials, cabins and crew all shade.</p>
      )}
      {things.map((thing, s) => {
        const cost = advice?.costs.find((item) => item.id === thing.id)?.cost_wh;
        return (
          <fieldset
            key={thing.id}
            className="m-0 mb-2 border-0 border-b border-solid border-hairline p-0 pb-1"
          >
            <legend className="sr-only">{thing.name}</legend>
            <TextField pointer={`/obstacles/${s}/name`} label="Name" width={150} />
            <ChoiceField
              pointer={`/obstacles/${s}/shape`}
              label="It is"
              options={SHAPES}
              width={130}
              write={(d, shape) => withShape(d, s, shape)}
            />
            {thing.shape === "box" ? (
              <>
                <NumberField pointer={`/obstacles/${s}/width_m`} label="Athwart" kind="length_m" step={0.1} />
                <NumberField
                  pointer={`/obstacles/${s}/length_m`}
                  label="Fore and aft"
                  kind="length_m"
                  step={0.1}
                />
              </>
            ) : (
              thing.shape !== "sail" && (
                <NumberField
                  pointer={`/obstacles/${s}/radius_m`}
                  label="Half its thickness"
                  kind="length_m"
                  step={0.01}
                />
              )
            )}
            <Ends s={s} end="foot" title={thing.shape === "sail" ? "Tack" : "Foot"} />
            <Ends s={s} end="tip" title={thing.shape === "sail" ? "Head" : "Top"} />
            {thing.shape === "sail" && <Ends s={s} end="clew" title="Clew" />}
            <States
              title="stands"
              s={s}
              list="stands_in"
              checked={(state) => thing.stands_in?.includes(state) ?? true}
            />
            {thing.shape !== "box" && (
              <>
                <NumberField
                  pointer={`/obstacles/${s}/swung_deg`}
                  label="Swung by"
                  kind="angle_deg"
                  step={5}
                  hint="About its foot, clockwise seen from above: a boom that points aft goes to port. Say below when it is swung"
                />
                {(thing.swung_deg ?? 0) !== 0 && (
                  <States
                    title="swung"
                    s={s}
                    list="swung_in"
                    checked={(state) => thing.swung_in?.includes(state) ?? false}
                  />
                )}
              </>
            )}
            <p className="m-0 flex justify-between gap-2 text-[13px]">
              <span>
                {cost !== undefined && (
                  <>costs {shown({ quantity: "energy_wh", value: cost, signed: false }, units)} a day</>
                )}
              </span>
              <button
                type="button"
                className="link"
                onClick={() => apply((d) => withoutThing(d, thing.id), "thing")}
              >
                remove
              </button>
            </p>
          </fieldset>
        );
      })}
      <p className="m-0 flex flex-wrap gap-x-3">
        <button type="button" className="link" onClick={() => apply((d) => withThing(d), "thing")}>
          add a spar
        </button>
        <button type="button" className="link" onClick={() => apply((d) => withThing(d, "box"), "thing")}>
          a box
        </button>
        <button type="button" className="link" onClick={() => apply((d) => withThing(d, "sail"), "thing")}>
          a sail
        </button>
      </p>
    </>
  );
}

/** The states in which it stands, or is swung. */
function States(props: {
  title: string;
  s: number;
  list: "stands_in" | "swung_in";
  checked: (state: BoatState) => boolean;
}) {
  const { apply } = useDesign();
  return (
    <fieldset className="m-0 mb-1 border-0 p-0">
      <legend className="p-0 text-[13px] text-muted">{props.title}</legend>
      <span className="flex flex-wrap gap-x-3">
        {STATES.map(([state, words]) => (
          <label key={state} className="flex items-center gap-1 text-[13px]">
            <input
              type="checkbox"
              aria-label={props.list === "swung_in" ? `swung ${words}` : words}
              className="accent-[var(--water)]"
              checked={props.checked(state)}
              onChange={(event) => {
                const on = event.target.checked;
                apply((d) => withThingIn(d, props.s, props.list, state, on), props.list);
              }}
            />
            {words}
          </label>
        ))}
      </span>
    </fieldset>
  );
}

const AXES = [
  ["x_m", "starboard"],
  ["y_m", "forward"],
  ["z_m", "up"],
] as const;

/** One point of a thing: three small numbers in a row. */
function Ends({ s, end, title }: { s: number; end: "foot" | "tip" | "clew"; title: string }) {
  const units = useUnits();
  return (
    <div className="mb-1 grid grid-cols-[44px_1fr_1fr_1fr] items-end gap-x-1.5">
      <span className="pb-1">{title}</span>
      {AXES.map(([axis, words]) => (
        <span key={axis} className="text-[12px] text-muted">
          {words} {units.length}
          <NumberField
            pointer={`/obstacles/${s}/${end}/${axis}`}
            label={words}
            name={`${title}, ${words}`}
            kind="length_m"
            step={0.1}
            width={62}
            bare
          />
        </span>
      ))}
    </div>
  );
}
