import type { HullPicture } from "../../api/client";
import { useSay, useUnits } from "../../kit/preferences";
import { shown } from "../../kit/units";

/** The planned watts on their way from the battery into the water, and what they are spent on. */
export function PowerStrip({ picture }: { picture: HullPicture }) {
  const units = useUnits();
  const say = useSay();
  const signed = (value: number) => shown({ quantity: "power_w", value, signed: true }, units);
  const whole = picture.plan_power_w || 1;
  const costs = picture.costs.filter((cost) => cost.key !== "water" && Math.abs(cost.power_w) >= 0.5);
  return (
    <section aria-label="From the battery into the water" className="border-t border-hairline pt-1.5 pb-0.5">
      <ol className="m-0 flex list-none items-end gap-1 p-0" data-chain>
        <li className="min-w-[74px]">
          <Bar share={1} fill="var(--bank)" />
          <span className="block text-[12.5px] leading-tight text-muted">battery</span>
          <b className="tabular block leading-tight">{say("power_w", picture.plan_power_w)}</b>
        </li>
        {picture.chain.map((link) => (
          <li key={link.name} className="min-w-0 flex-1">
            <Bar share={Math.max(link.left_w / whole, 0)} fill="var(--water)" />
            <span
              className="block truncate text-[12.5px] leading-tight text-muted max-md:whitespace-normal"
              title={link.name}
            >
              {link.name}
            </span>
            <span className="tabular block leading-tight">
              <b>{say("fraction", link.efficiency)}</b>{" "}
              <span className="text-[12.5px] text-muted">{say("power_w", link.left_w)}</span>
            </span>
          </li>
        ))}
      </ol>
      {costs.length > 0 && (
        <p className="m-0 mt-1 text-[13px] leading-snug text-muted" data-costs>
          Of these:{" "}
          {costs.map((cost, index) => (
            <span key={cost.key}>
              {index > 0 && " · "}
              {cost.label} <b className="tabular text-ink">{signed(cost.power_w)}</b>
              {cost.low_w != null &&
                cost.high_w != null &&
                ` (${say("power_w", cost.low_w)} to ${say("power_w", cost.high_w)})`}
            </span>
          ))}
        </p>
      )}
    </section>
  );
}

/** What is left of the watts, as a band that grows thin. */
function Bar({ share, fill }: { share: number; fill: string }) {
  return (
    <span aria-hidden="true" className="mb-0.5 flex h-[18px] items-center">
      <span
        className="block w-full rounded-[2px]"
        style={{ height: Math.max(18 * Math.min(share, 1), 2), background: fill }}
      />
    </span>
  );
}
