import type { BoatDesign } from "../api/client";
import { useDesign } from "../kit/document";
import { Field, Fields, RemovePart } from "../kit/ui/Field";
import { Item } from "../kit/ui/fields";

/** In a few words, for the closed fold. */
export const sourceSummary = (design: BoatDesign) =>
  (design.sources ?? []).map((source) => source.name).join(", ") || "the sun alone";

/** Shore, wind, generator, water and legs: what else charges the bank. */
export function SourceFields() {
  const { design, apply, entries } = useDesign();
  const sources = design.sources ?? [];
  return (
    <>
      {sources.map((source, index) => {
        const at = `/sources/${index}`;
        const turned = source.kind === "wind" || source.kind === "hydro";
        return (
          <Item key={source.id} title={source.name} quiet data-source={source.kind}>
            <Fields at={at} of="name rated_power_w" />
            <Fields at={at} of="begins_mps full_mps" ifUsual />
            {source.kind === "wind" && <Field at="/plan/wind_mps" label="The day's wind" />}
            {source.kind === "wind" && <Field at={`${at}/dump_load`} />}
            {source.kind === "generator" && <Fields at={at} of="start_frac stop_frac" />}
            {!turned && (
              <Field
                at={`${at}/from_clock`}
                label={source.kind === "shore" ? "Plugged in from" : "Not before"}
              />
            )}
            {(source.from_clock != null || source.kind === "pedals") && <Field at={`${at}/hours_per_day`} />}
            {source.kind === "shore" && (
              <p className="m-0 mb-1 text-[13px] text-muted">Counts in the hours at the dock.</p>
            )}
            {source.kind === "hydro" && (
              <p className="m-0 mb-1 text-[13px] text-muted">
                Counts under sail, at the plan's speed; its drag is not in the speed.
              </p>
            )}
            {(design.banks ?? []).length > 1 && <Field at={`${at}/bank_id`} width={120} />}
            <RemovePart from="/sources" id={source.id} words={`remove ${source.name}`} />
          </Item>
        );
      })}
      <select
        className="h-[28px] w-[190px] rounded-[5px] border border-edge bg-field px-1 text-ink"
        aria-label="Add another source of charge"
        value=""
        onChange={(event) => {
          const kind = event.target.value;
          if (kind) apply((current) => entries.withNew(current, "/sources", { kind }), "sources");
        }}
      >
        <option value="">add a source …</option>
        {entries.options("/sources/0/kind").map(([kind, name]) => (
          <option
            key={kind}
            value={kind}
            disabled={kind === "generator" && sources.some((item) => item.kind === kind)}
          >
            {name}
          </option>
        ))}
      </select>
    </>
  );
}
