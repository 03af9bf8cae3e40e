import type { ArrayAdvice, BoatState } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { AddPart, Field, Fields, RemovePart } from "../../kit/ui/Field";
import { Item } from "../../kit/ui/fields";
import { withShape, withThingIn } from "./parts";

/** What throws shade: masts, booms, stays, a cabin, the crew, a sail; each in the states it stands in. */
export function ThingFields({ advice }: { advice: ArrayAdvice | undefined }) {
  const { design, entries } = useDesign();
  const say = useSay();
  const things = design.obstacles ?? [];
  return (
    <>
      {things.length === 0 && (
        <p className="mt-0 mb-1 text-muted">Nothing yet. Masts, booms, aerials, cabins and crew all shade.</p>
      )}
      {things.map((thing, s) => {
        const at = `/obstacles/${s}`;
        const cost = advice?.costs.find((item) => item.id === thing.id)?.cost_wh;
        const size = { spar: "radius_m", box: "width_m length_m", sail: "" }[thing.shape ?? "spar"];
        return (
          <Item key={thing.id} title={thing.name} quiet>
            <Field at={`${at}/name`} />
            <Field
              at={`${at}/shape`}
              width={130}
              write={(d, shape) => withShape(d, entries, s, shape as NonNullable<typeof thing.shape>)}
            />
            {size && <Fields at={at} of={size} />}
            <Ends at={`${at}/foot`} title={thing.shape === "sail" ? "Tack" : "Foot"} />
            <Ends at={`${at}/tip`} title={thing.shape === "sail" ? "Head" : "Top"} />
            {thing.shape === "sail" && <Ends at={`${at}/clew`} title="Clew" />}
            <States s={s} list="stands_in" title="stands" checked={thing.stands_in} all />
            {thing.shape !== "box" && <Field at={`${at}/swung_deg`} />}
            {thing.shape !== "box" && (thing.swung_deg ?? 0) !== 0 && (
              <States s={s} list="swung_in" title="swung" checked={thing.swung_in} />
            )}
            <p className="m-0 flex justify-between gap-2 text-[13px]">
              <span>{cost !== undefined && <>costs {say("energy_wh", cost)} a day</>}</span>
              <RemovePart from="/obstacles" id={thing.id} words="remove" />
            </p>
          </Item>
        );
      })}
      <p className="m-0 flex flex-wrap gap-x-3">
        <AddPart to="/obstacles" like={{ shape: "spar" }} words="add a spar" />
        <AddPart to="/obstacles" like={{ shape: "box" }} words="a box" />
        <AddPart to="/obstacles" like={{ shape: "sail" }} words="a sail" />
      </p>
    </>
  );
}

/** The states in which it stands, or is swung. */
function States(props: {
  title: string;
  s: number;
  list: "stands_in" | "swung_in";
  checked: BoatState[] | null | undefined;
  all?: boolean; // where no list is given
}) {
  const { s, list, checked, all } = props;
  const { apply, entries } = useDesign();
  const states = entries.options("/plan/state") as [BoatState, string][];
  return (
    <fieldset className="m-0 mb-1 border-0 p-0">
      <legend className="p-0 text-[13px] text-muted">{props.title}</legend>
      <span className="flex flex-wrap gap-x-3">
        {states.map(([state, words]) => (
          <label key={state} className="flex items-center gap-1 text-[13px]">
            <input
              type="checkbox"
              aria-label={list === "swung_in" ? `swung ${words}` : words}
              className="accent-[var(--water)]"
              checked={checked?.includes(state) ?? Boolean(all)}
              onChange={(event) => {
                const on = event.target.checked;
                const every = states.map(([key]) => key);
                apply((d) => withThingIn(d, s, list, every, state, on), list);
              }}
            />
            {words}
          </label>
        ))}
      </span>
    </fieldset>
  );
}

const AXES = { x_m: "starboard", y_m: "forward", z_m: "up" };

/** One point of a thing: three small numbers in a row. */
function Ends({ at, title }: { at: string; title: string }) {
  const units = useUnits();
  return (
    <div className="mb-1 grid grid-cols-[44px_1fr_1fr_1fr] items-end gap-x-1.5">
      <span className="pb-1">{title}</span>
      {Object.entries(AXES).map(([axis, words]) => (
        <span key={axis} className="text-[12px] text-muted">
          {words} {units.length}
          <Field bare at={`${at}/${axis}`} label={`${title}, ${words}`} width={62} />
        </span>
      ))}
    </div>
  );
}
