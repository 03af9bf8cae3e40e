import type { BoatDesign } from "../../api/client";
import { useDesign } from "../../kit/document";
import type { Entries } from "../../kit/entries";
import { AddPart, Field, RemovePart } from "../../kit/ui/Field";
import { Item } from "../../kit/ui/fields";

const KIND = "/pushes/0/kind";

export function pushSummary(design: BoatDesign, entries: Entries): string {
  const names = (design.pushes ?? []).map((push) => entries.words(KIND)[push.kind]?.toLowerCase());
  return names.length ? names.join(", ") : "none";
}

/** What else pushes: legs and arms spare the motor, under sail it is off. */
export function Pushes() {
  const { design, entries } = useDesign();
  return (
    <>
      {(design.pushes ?? []).map((push, index) => (
        <Item key={push.id} title={entries.words(KIND)[push.kind] ?? ""}>
          {push.kind !== "sail" && <Field at={`/pushes/${index}/power_w`} />}
          <Field
            at={`/pushes/${index}/hours_per_day`}
            label={push.kind === "sail" ? "Hours with the motor off" : undefined}
          />
          <Field at={`/pushes/${index}/from_clock`} />
          <RemovePart from="/pushes" id={push.id} words="remove" />
        </Item>
      ))}
      <p className="m-0 flex flex-wrap gap-x-4">
        {entries.options(KIND).map(([kind, label]) => (
          <AddPart key={kind} to="/pushes" like={{ kind }} words={`add ${label.toLowerCase()}`} />
        ))}
      </p>
    </>
  );
}
