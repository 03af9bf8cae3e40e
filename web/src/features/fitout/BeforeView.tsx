import { useId } from "react";
import type { FitoutPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { newId, useNoted, useRecords } from "../../kit/records";
import { Heading } from "../../kit/ui/Page";
import { SaveAs } from "../../kit/ui/SaveAs";

/** A short list made from this boat, and everything on paper. */
export function BeforeView({ picture }: { picture: FitoutPicture }) {
  const { records } = useRecords();
  const { design } = useDesign();
  const units = useUnits();
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto"
      tabIndex={0}
      role="region"
      aria-label="Before the first trip"
    >
      <Heading title="Before the first trip" in="made from this boat; what can hurt somebody stands first" />
      <ul className="m-0 max-w-[70ch] list-none p-0" data-checks>
        {picture.checks.map((check) => (
          <Check key={check.key} check={check} at={picture.minute.at} />
        ))}
      </ul>
      <p className="mt-2 mb-3 max-w-[70ch] text-[13px] text-muted">
        Crew numbers and loading plates still rule; local rules, forecast, wind and tide come before any list.
      </p>
      <h2 className="m-0 mb-1 text-[15px] font-bold">On paper</h2>
      <ul className="no-print m-0 list-none p-0 leading-7">
        <li>
          <SaveAs url="/api/fitout/pack.pdf" file="pack.pdf" asked={{ records, unit: units.speed }}>
            the print pack (PDF)
          </SaveAs>{" "}
          <span className="text-muted">
            diagram, steps to sign, the way back, settings, tape, labels, parts, helm card
            {design.passage && ", passage card"}
          </span>
        </li>
        <li>
          <SaveAs url="/api/strings/wiring.pdf" file="wiring.pdf">
            the wiring diagram and its cables (PDF)
          </SaveAs>
        </li>
        <li>
          <SaveAs url="/api/hull/helm-card.pdf" file="helm-card.pdf" asked={{ unit: units.speed }}>
            the helm card (PDF)
          </SaveAs>
        </li>
        {design.passage && (
          <li>
            <SaveAs url="/api/passage/card.pdf" file="passage.pdf" asked={{ unit: units.speed }}>
              the passage card (PDF)
            </SaveAs>
          </li>
        )}
      </ul>
    </div>
  );
}

function Check({ check, at }: { check: FitoutPicture["checks"][number]; at: string }) {
  const { note, withdraw } = useRecords();
  const held = useNoted("tick", (one) => one.item === check.key);
  const id = useId();
  return (
    <li className="flex items-start gap-2.5 border-b border-hairline py-1.5">
      <input
        id={id}
        type="checkbox"
        className="mt-1"
        checked={held !== undefined}
        onChange={(event) =>
          event.target.checked
            ? note({ kind: "tick", id: newId(), item: check.key, at, note: "" })
            : held && withdraw(held.id)
        }
      />
      <label htmlFor={id} className="flex-1">
        {check.harm && (
          <span aria-hidden="true" className="mr-1 text-alarm">
            ▲
          </span>
        )}
        {check.words}
      </label>
      <span className="tabular text-[13px] text-muted">{check.at?.slice(0, 10)}</span>
    </li>
  );
}
