import type { BoatDesign } from "../api/client";
import { useDesign } from "../kit/document";
import { CheckField, ChoiceField, NumberField, TextField } from "../kit/ui/fields";

type Source = NonNullable<BoatDesign["sources"]>[number];
type Kind = Source["kind"];

const KINDS: readonly (readonly [Kind, string, number])[] = [
  ["shore", "Shore charger", 600],
  ["wind", "Wind generator", 400],
  ["generator", "Generator", 900],
  ["hydro", "Towed generator", 250],
  ["pedals", "Pedals", 70],
];

/** In a few words, for the closed fold. */
export const sourceSummary = (design: BoatDesign) =>
  (design.sources ?? []).map((source) => source.name).join(", ") || "the sun alone";

/** Shore, wind, generator, water and legs: what else charges the bank. */
export function SourceFields() {
  const { design, apply } = useDesign();
  const sources = design.sources ?? [];
  const [main, house] = design.banks ?? [];
  const set = (next: Source[]) => apply((current) => ({ ...current, sources: next }), "sources");
  return (
    <>
      {sources.map((source, index) => {
        const at = (entry: string) => `/sources/${index}/${entry}`;
        return (
          <fieldset
            key={source.id}
            className="m-0 mb-2 border-0 border-b border-solid border-hairline p-0 pb-1"
            data-source={source.kind}
          >
            <legend className="sr-only">{source.name}</legend>
            <TextField pointer={at("name")} label="Called" width={150} />
            <NumberField pointer={at("rated_power_w")} label="Most it sends" kind="power_w" step={50} />
            {(source.kind === "wind" || source.kind === "hydro") && (
              <>
                <NumberField
                  pointer={at("begins_mps")}
                  label="Begins at"
                  kind="speed_mps"
                  usual={source.kind === "wind" ? 3 : 1.5}
                  step={0.5}
                />
                <NumberField
                  pointer={at("full_mps")}
                  label="Full at"
                  kind="speed_mps"
                  usual={source.kind === "wind" ? 12 : 3.5}
                  step={0.5}
                />
              </>
            )}
            {source.kind === "wind" && (
              <>
                <NumberField
                  pointer="/plan/wind_mps"
                  label="The day's wind"
                  kind="speed_mps"
                  step={0.5}
                  hint="The mean of the day; gusts and lulls about it are counted"
                />
                <CheckField pointer={at("dump_load")} label="Has its dump load" />
              </>
            )}
            {source.kind === "generator" && (
              <>
                <NumberField pointer={at("start_frac")} label="Starts at" kind="fraction" step={5} />
                <NumberField pointer={at("stop_frac")} label="Stops at" kind="fraction" step={5} />
              </>
            )}
            {source.kind !== "wind" && source.kind !== "hydro" && (
              <TextField
                optional
                pointer={at("from_clock")}
                label={source.kind === "shore" ? "Plugged in from" : "Not before"}
                type="clock"
                width={64}
              />
            )}
            {(source.from_clock != null || source.kind === "pedals") && (
              <NumberField pointer={at("hours_per_day")} label="For" kind="duration_h" step={0.5} />
            )}
            {source.kind === "shore" && (
              <p className="m-0 mb-1 text-[13px] text-muted">Counts in the hours at the dock.</p>
            )}
            {source.kind === "hydro" && (
              <p className="m-0 mb-1 text-[13px] text-muted">
                Counts under sail, at the plan's speed; its drag is not in the speed.
              </p>
            )}
            {main && house && (
              <ChoiceField
                pointer={at("bank_id")}
                label="Charges"
                width={120}
                options={[
                  ["null", main.name ?? "the first"] as const,
                  [house.id, house.name ?? "the second"] as const,
                ]}
                write={(current, value) => ({
                  ...current,
                  sources: (current.sources ?? []).map((item) =>
                    item.id === source.id ? { ...item, bank_id: value === "null" ? null : value } : item,
                  ),
                })}
              />
            )}
            <button
              type="button"
              className="link"
              onClick={() => set(sources.filter((item) => item.id !== source.id))}
            >
              remove {source.name}
            </button>
          </fieldset>
        );
      })}
      <select
        className="h-[28px] w-[190px] rounded-[5px] border border-edge bg-field px-1 text-ink"
        aria-label="Add another source of charge"
        value=""
        onChange={(event) => {
          const kind = KINDS.find(([key]) => key === event.target.value);
          if (kind) set([...sources, fresh(kind)]);
        }}
      >
        <option value="">add a source …</option>
        {KINDS.map(([key, name]) => (
          <option
            key={key}
            value={key}
            disabled={key === "generator" && sources.some((item) => item.kind === key)}
          >
            {name}
          </option>
        ))}
      </select>
    </>
  );
}

const fresh = ([kind, name, watts]: readonly [Kind, string, number]) =>
  ({
    id: `source-${crypto.randomUUID().slice(0, 8)}`,
    name,
    kind,
    rated_power_w: watts,
    dump_load: true,
    hours_per_day: 24,
    ...(kind === "pedals" ? { from_clock: "10:00:00", hours_per_day: 1 } : {}),
  }) as Source;
