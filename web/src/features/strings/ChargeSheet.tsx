import type { StringsPicture } from "../../api/client";
import { useUnits } from "../../kit/preferences";
import { View } from "../../kit/ui/View";
import { shown } from "../../kit/units";
import { WiringFiles } from "./PartsList";

/** What to set on every controller, by the bank it charges; to print and keep beside the switchboard. */
export function ChargeSheet({ picture }: { picture: StringsPicture }) {
  const units = useUnits();
  const degrees = (value: number) => shown({ quantity: "temperature_c", value, signed: false }, units);
  return (
    <View label="Charge settings" data-settings>
      {picture.banks.length === 0 && <p className="text-muted">No bank: nothing is charged.</p>}
      {picture.banks.map((bank) => {
        const boxes = picture.rungs.filter(
          (rung) => picture.lines.find((line) => line.key === rung.key)?.bank_id === bank.id,
        );
        return (
          <section key={bank.id} className="mb-4">
            <h2 className="m-0 text-[15px] font-bold">
              {bank.name}, {bank.chemistry}, {bank.nominal_v.toFixed(1)} V {Math.round(bank.capacity_ah)} Ah
            </h2>
            <table className="plain-table max-w-[520px]">
              <tbody>
                {(
                  [
                    ["Absorption", `${bank.absorption_v.toFixed(1)} V for ${bank.absorption_h} h`],
                    ["Float", `${bank.float_v.toFixed(1)} V`],
                    [
                      "Equalise",
                      bank.equalise_v == null
                        ? "never"
                        : `${bank.equalise_v.toFixed(1)} V, now and then, with someone watching`,
                    ],
                    [
                      "With heat",
                      bank.compensation_v_per_k == null
                        ? "no compensation"
                        : `${Math.round(1000 * bank.compensation_v_per_k)} mV a degree from 25 °C`,
                    ],
                    ["No charge below", degrees(bank.no_charge_below_c)],
                    ["No charge above", degrees(bank.no_charge_above_c)],
                    ["Loads off at", `${bank.cut_out_v.toFixed(1)} V`],
                    ["Loads on again at", `${bank.resume_v.toFixed(1)} V`],
                  ] as const
                ).map(([name, value]) => (
                  <tr key={name}>
                    <td>{name}</td>
                    <td>
                      <b>{value}</b>
                    </td>
                  </tr>
                ))}
                <tr>
                  <td>Set on</td>
                  <td>
                    {[...new Set(boxes.map((rung) => rung.controller))].join(", ") ||
                      "no controller charges it"}
                  </td>
                </tr>
              </tbody>
            </table>
          </section>
        );
      })}
      <p className="m-0 text-[13px] text-muted">
        Usual for the chemistry, from its cells. The bank maker's own numbers come first.
      </p>
      <span className="no-print mt-2 flex items-center gap-3">
        <button type="button" className="btn" onClick={() => window.print()}>
          Print
        </button>
        <WiringFiles />
      </span>
    </View>
  );
}
