import { useList } from "../asking/lists";
import { useDesign } from "../kit/document";
import { withValue } from "../kit/pointer";
import { AddPart, Field, RemovePart } from "../kit/ui/Field";
import { Head } from "../kit/ui/View";

const at = (index: number) => `/loads/${index}`;

/** What the house takes: watts, hours, whether it is essential, which bank, through an inverter or not. */
export function Loads({ full }: { full?: boolean }) {
  const { design } = useDesign();
  const loads = design.loads ?? [];
  const banks = design.banks ?? [];
  return (
    <>
      {loads.length > 0 && (
        <table className="bench-table mb-1 w-full">
          <Head of={["load", "W", "h/day", ...(full ? [] : ["from"])]} quiet="Remove" />
          {loads.map((load, index) => (
            <tbody key={load.id} className="border-b border-hairline">
              <tr className="align-top">
                <td className="py-0.5">
                  <Field bare at={`${at(index)}/name`} width={full ? 122 : 84} />
                </td>
                <td className="text-right">
                  <Field bare at={`${at(index)}/power_w`} width={full ? 58 : 48} />
                </td>
                <td className="text-right">
                  <Field bare at={`${at(index)}/hours_per_day`} width={44} />
                </td>
                {!full && (
                  <td className="text-right">
                    <Field bare at={`${at(index)}/from_clock`} width={62} />
                  </td>
                )}
                <td>
                  <RemovePart cross from="/loads" id={load.id} words={`Remove ${load.name}`} />
                </td>
              </tr>
              {full && (
                <tr>
                  <td colSpan={4} className="pb-1.5">
                    <span className="flex flex-wrap items-center gap-x-2.5 gap-y-1 text-[13px] text-muted">
                      <span className="flex items-center gap-1">
                        from <Field bare at={`${at(index)}/from_clock`} width={62} />
                      </span>
                      <span className="flex items-center gap-1">
                        <Field bare at={`${at(index)}/essential`} /> essential
                      </span>
                      <Inverter index={index} />
                      {banks.length > 1 && <Field bare at={`${at(index)}/bank_id`} width={104} />}
                    </span>
                  </td>
                </tr>
              )}
            </tbody>
          ))}
        </table>
      )}
      <div className="flex flex-wrap items-center gap-x-4">
        <AddPart to="/loads" words="add a load" />
        {full && <Presets />}
      </div>
    </>
  );
}

function Inverter({ index }: { index: number }) {
  const { design, apply, entries } = useDesign();
  const pointer = `${at(index)}/inverter_efficiency`;
  return (
    <label className="flex items-center gap-1">
      <input
        type="checkbox"
        className="h-[18px] w-[18px] accent-[var(--water)]"
        aria-label={`Load ${index + 1}, through an inverter`}
        checked={design.loads?.[index]?.inverter_efficiency != null}
        onChange={(event) => {
          const through = event.target.checked ? entries.begun(pointer) : null;
          apply((current) => withValue(current, pointer, through), "inverter");
        }}
      />
      inverter
    </label>
  );
}

/** Usual loads to start from. */
function Presets() {
  const { apply, entries } = useDesign();
  const presets = useList("load-presets").data ?? [];
  return (
    <select
      className="h-[28px] w-[150px] rounded-[5px] border border-edge bg-field px-1 text-ink"
      aria-label="Add a usual load"
      value=""
      onChange={(event) => {
        const chosen = presets[Number(event.target.value)];
        if (chosen)
          apply((current) => entries.withNew(current, "/loads", { ...chosen }), `preset-${Date.now()}`);
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
