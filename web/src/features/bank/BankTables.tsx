import type { BankPicture } from "../../api/client";
import { useSay } from "../../kit/preferences";
import { Told } from "../../kit/ui/Told";
import { Head } from "../../kit/ui/View";

const WORTH_MPS = 0.02; // of speed, before a bank's mass is worth a word

/** How large a bank would have to be for what is asked. */
export function SizesTable({ picture }: { picture: BankPicture }) {
  const say = useSay();
  return (
    <section aria-label="How much bank it takes">
      <h2 className="m-0 text-[13.5px] font-bold text-muted">How much bank it takes, full to the reserve</h2>
      <table className="max-[720px]:[&_th:nth-child(3)]:hidden plain-table">
        <Head of={["for", "holds", "is", "weighs", "of yours"]} />
        <tbody>
          {picture.sizes.map((size) => (
            <tr key={size.key} data-size={size.key}>
              <td>
                <Told sentence={size.label} />
                {size.slower_mps != null && Math.abs(size.slower_mps) > WORTH_MPS && (
                  <span className="block text-[12.5px] text-muted">
                    {say("speed_mps", Math.abs(size.slower_mps))} {size.slower_mps > 0 ? "slower" : "faster"}{" "}
                    at the same watts
                  </span>
                )}
              </td>
              {size.energy_wh == null ? (
                <td colSpan={4} className="text-muted">
                  {size.reason && <Told sentence={size.reason} />}
                </td>
              ) : (
                <>
                  <td>
                    <b>{say("energy_wh", size.energy_wh)}</b>
                  </td>
                  <td className="max-[720px]:hidden">{say("capacity_ah", size.capacity_ah ?? 0)}</td>
                  <td>{say("mass_kg", size.mass_kg ?? 0)}</td>
                  <td className="whitespace-nowrap">
                    {say("fraction", size.of_present ?? 0)}
                    <span className="text-[12.5px] text-muted"> · {size.units} pcs</span>
                  </td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Hours on the bank alone at each speed. */
export function SpeedsTable({ picture }: { picture: BankPicture }) {
  const say = useSay();
  const rows = picture.speeds.filter((_, index) => picture.speeds.length <= 6 || index % 2 === 0).slice(0, 6);
  return (
    <section aria-label="Hours at each speed">
      <h2 className="m-0 text-[13.5px] font-bold text-muted">Hours, no sun</h2>
      <table className="plain-table">
        <tbody>
          {rows.map((row) => (
            <tr key={row.speed_mps}>
              <td>{say("speed_mps", row.speed_mps)}</td>
              <td className="text-muted">{say("power_w", row.power_w)}</td>
              <td>
                <b>{row.hours == null ? "over 72 h" : say("duration_h", row.hours)}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** What a habit costs in years, in one line. */
export function HabitsLine({ picture }: { picture: BankPicture }) {
  const say = useSay();
  return (
    <p className="m-0 mt-1.5 border-t border-hairline pt-1.5 text-[13px] text-muted" data-habits>
      Drawn 120 times a year it lasts{" "}
      {picture.habits.map((habit, index) => (
        <span key={habit.depth_frac} className={habit.is_todays ? "font-bold text-ink" : undefined}>
          {index > 0 && " · "}
          {say("fraction", habit.depth_frac)} deep{habit.is_todays && ", as this day"}{" "}
          <span className="tabular text-ink">
            {habit.low_years.toFixed(0)}–{habit.high_years.toFixed(0)} years
          </span>
        </span>
      ))}
    </p>
  );
}
