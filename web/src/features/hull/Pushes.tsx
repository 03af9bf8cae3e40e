import type { BoatDesign } from "../../api/client";
import { useDesign } from "../../kit/document";
import { NumberField, TextField } from "../../kit/ui/fields";
import { without, withPush } from "./parts";

const KINDS = [
  ["pedals", "Pedals"],
  ["paddle", "Paddle"],
  ["oars", "Oars"],
  ["sail", "Sail"],
] as const;
const NAMES: Record<string, string> = Object.fromEntries(KINDS);

export function pushSummary(design: BoatDesign): string {
  const names = (design.pushes ?? []).map((push) => NAMES[push.kind]?.toLowerCase());
  return names.length ? names.join(", ") : "none";
}

/** What else pushes: legs and arms spare the motor, under sail it is off. */
export function Pushes() {
  const { design, apply } = useDesign();
  return (
    <>
      {(design.pushes ?? []).map((push, index) => (
        <fieldset
          key={push.id}
          className="m-0 mb-1.5 border-0 border-b border-solid border-hairline p-0 pb-1"
        >
          <legend className="text-[13px] font-bold">{NAMES[push.kind]}</legend>
          {push.kind !== "sail" && (
            <NumberField
              pointer={`/pushes/${index}/power_w`}
              label="Watts a person holds"
              kind="power_w"
              step={5}
              hint="Some 75 for hours, 150 for half an hour"
            />
          )}
          <NumberField
            pointer={`/pushes/${index}/hours_per_day`}
            label={push.kind === "sail" ? "Hours with the motor off" : "Hours a day"}
            kind="duration_h"
            step={0.5}
          />
          <TextField pointer={`/pushes/${index}/from_clock`} label="From" type="clock" width={70} />
          <button
            type="button"
            className="link"
            onClick={() => apply((current) => without(current, "pushes", push.id), "pushes")}
          >
            remove
          </button>
        </fieldset>
      ))}
      <p className="m-0 flex flex-wrap gap-x-4">
        {KINDS.map(([kind, label]) => (
          <button
            key={kind}
            type="button"
            className="link"
            onClick={() => apply((current) => withPush(current, kind), "pushes")}
          >
            add {label.toLowerCase()}
          </button>
        ))}
      </p>
    </>
  );
}
