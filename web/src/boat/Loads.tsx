import { useQuery } from "@tanstack/react-query";
import { client, dataOf } from "../api/client";
import { useDesign } from "../kit/document";
import { CheckField, ChoiceField, NumberField, TextField } from "../kit/ui/fields";
import { withLoad, withoutLoad } from "./banks";

const USUAL_INVERTER = 0.88;

/** What the house takes: watts, hours, whether it is essential, which bank, through an inverter or not. */
export function Loads({ full }: { full?: boolean }) {
  const { design, apply } = useDesign();
  const loads = design.loads ?? [];
  const banks = design.banks ?? [];
  return (
    <>
      {loads.length > 0 && (
        <table className="mb-1 w-full border-collapse">
          <thead>
            <tr className="text-[13px] text-muted">
              <th className="text-left font-normal">load</th>
              <th className="text-right font-normal">W</th>
              <th className="text-right font-normal">h/day</th>
              {!full && <th className="text-right font-normal">from</th>}
              <th>
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          {loads.map((load, index) => (
            <tbody key={load.id} className="border-b border-hairline">
              <tr className="align-top">
                <td className="py-0.5">
                  <TextField
                    bare
                    pointer={`/loads/${index}/name`}
                    label={`Load ${index + 1}, name`}
                    width={full ? 122 : 84}
                  />
                </td>
                <td className="text-right">
                  <NumberField
                    bare
                    pointer={`/loads/${index}/power_w`}
                    label=""
                    name={`Load ${index + 1}, watts`}
                    kind="power_w"
                    width={full ? 58 : 48}
                    step={1}
                  />
                </td>
                <td className="text-right">
                  <NumberField
                    bare
                    pointer={`/loads/${index}/hours_per_day`}
                    label=""
                    name={`Load ${index + 1}, hours a day`}
                    kind="duration_h"
                    width={44}
                    step={0.5}
                  />
                </td>
                {!full && (
                  <td className="text-right">
                    <FromClock index={index} />
                  </td>
                )}
                <td>
                  <button
                    type="button"
                    className="cross"
                    aria-label={`Remove ${load.name}`}
                    onClick={() => apply((current) => withoutLoad(current, load.id), "loads")}
                  >
                    ×
                  </button>
                </td>
              </tr>
              {full && (
                <tr>
                  <td colSpan={4} className="pb-1.5">
                    <span className="flex flex-wrap items-center gap-x-2.5 gap-y-1 text-[13px] text-muted">
                      <span className="flex items-center gap-1">
                        from <FromClock index={index} />
                      </span>
                      <span className="flex items-center gap-1">
                        <CheckField
                          bare
                          pointer={`/loads/${index}/essential`}
                          label={`Load ${index + 1}, essential`}
                        />
                        essential
                      </span>
                      <label className="flex items-center gap-1">
                        <input
                          type="checkbox"
                          className="h-[18px] w-[18px] accent-[var(--water)]"
                          aria-label={`Load ${index + 1}, through an inverter`}
                          checked={load.inverter_efficiency != null}
                          onChange={(event) => {
                            const on = event.target.checked;
                            apply(
                              (current) => ({
                                ...current,
                                loads: (current.loads ?? []).map((item) =>
                                  item.id === load.id
                                    ? { ...item, inverter_efficiency: on ? USUAL_INVERTER : null }
                                    : item,
                                ),
                              }),
                              "inverter",
                            );
                          }}
                        />
                        inverter
                      </label>
                      {banks.length > 1 && (
                        <ChoiceField
                          bare
                          pointer={`/loads/${index}/bank_id`}
                          label={`Load ${index + 1}, bank`}
                          width={104}
                          options={[
                            ["null", "the house's"] as const,
                            ...banks.slice(0, 2).map((bank) => [bank.id, bank.name ?? bank.id] as const),
                          ]}
                          write={(current, value) => ({
                            ...current,
                            loads: (current.loads ?? []).map((item) =>
                              item.id === load.id
                                ? { ...item, bank_id: value === "null" ? null : value }
                                : item,
                            ),
                          })}
                        />
                      )}
                    </span>
                  </td>
                </tr>
              )}
            </tbody>
          ))}
        </table>
      )}
      <div className="flex flex-wrap items-center gap-x-4">
        <button type="button" className="link" onClick={() => apply((current) => withLoad(current), "loads")}>
          add a load
        </button>
        {full && <Presets />}
      </div>
    </>
  );
}

/** When a load is switched on; empty is spread over the day. */
function FromClock({ index }: { index: number }) {
  return (
    <TextField
      bare
      optional
      pointer={`/loads/${index}/from_clock`}
      label={`Load ${index + 1}, switched on at; empty is spread over the day`}
      type="clock"
      width={62}
    />
  );
}

/** Usual loads to start from. */
function Presets() {
  const { apply } = useDesign();
  const presets =
    useQuery({
      queryKey: ["load-presets"],
      queryFn: () => dataOf(client.GET("/api/design/load-presets")),
      staleTime: Number.POSITIVE_INFINITY,
    }).data ?? [];
  return (
    <select
      className="h-[28px] w-[150px] rounded-[5px] border border-edge bg-field px-1 text-ink"
      aria-label="Add a usual load"
      value=""
      onChange={(event) => {
        const chosen = presets[Number(event.target.value)];
        if (chosen) apply((current) => withLoad(current, chosen), `preset-${Date.now()}`);
      }}
    >
      <option value="">a usual one …</option>
      {presets.map((preset, index) => (
        <option key={preset.name} value={index}>
          {preset.name}, {preset.power_w} W
        </option>
      ))}
    </select>
  );
}
