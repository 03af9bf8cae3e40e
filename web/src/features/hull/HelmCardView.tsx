import type { HelmCard } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { SaveAs } from "../../kit/ui/SaveAs";
import { Told } from "../../kit/ui/Told";
import { Head } from "../../kit/ui/View";
import { unitOf } from "../../kit/units";

/** The card to tape beside the throttle: on the screen, on paper, or as a PDF. */
export function HelmCardView() {
  const units = useUnits();
  const { data: card, stale, error, retry } = useStudy("hull/helm-card", { unit: units.speed });
  if (!card) return <Waiting error={error} retry={retry} what="The helm card" />;

  return (
    <div className={`min-h-0 flex-1 overflow-y-auto ${stale ? "opacity-75" : ""}`}>
      <div className="no-print mb-2 flex items-center gap-2">
        <button type="button" className="btn" onClick={() => window.print()}>
          Print
        </button>
        <SaveAs
          className="btn"
          url="/api/hull/helm-card.pdf"
          file="helm-card.pdf"
          asked={{ unit: units.speed }}
        >
          Save as PDF
        </SaveAs>
      </div>
      <Card card={card} />
    </div>
  );
}

/** Two quantities as a span; the unit once where it is the same. */
function spanOf(low: string, high: string): string {
  const [number, unit] = low.split("\u00a0");
  return high.endsWith(`\u00a0${unit}`) ? `${number}–${high}` : `${low}–${high}`;
}

function Card({ card }: { card: HelmCard }) {
  const { design } = useDesign();
  const units = useUnits();
  const say = useSay();
  const [speedUnit, speedSize] = unitOf("speed_mps", units);
  const [distanceUnit, distanceSize] = unitOf("distance_m", units);
  const far = (value: number | null) => (value === null ? "no end" : (value / distanceSize).toFixed(0));
  return (
    <article className="rounded border border-edge bg-field px-6 py-4" aria-label="Helm card">
      <header className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h2 className="m-0 text-[24px] font-bold">{design.name}</h2>
        <p className="m-0 text-[17px]">
          {card.sun_only_mps != null && (
            <>
              On the sun all day <b>{say("speed_mps", card.sun_only_mps)}</b>
            </>
          )}
          {card.noon_mps != null && (
            <>
              {" "}
              · at noon <b>{say("speed_mps", card.noon_mps)}</b>
            </>
          )}
          <span className="text-[13px] text-muted"> {card.plan_sky} sky</span>
        </p>
      </header>
      <p className="mt-0 mb-2 text-[13px] text-muted">
        <Told sentence={card.assumes} />
      </p>
      <table className="plain-table helm-table">
        <Head
          of={[
            "speed",
            "throttle",
            "9 boats of 10",
            ...(card.skies.length > 0 ? ["h, bank alone", `h, ${card.plan_sky}`] : []),
            ...card.skies.map((sky) => `${distanceUnit}, ${sky.label}`),
          ]}
        />
        <tbody>
          {card.rows.map((row) => (
            <tr key={row.speed_mps}>
              <td className="text-[17px] font-bold whitespace-nowrap">
                {(row.speed_mps / speedSize).toFixed(1)} <span className="text-[13px]">{speedUnit}</span>
              </td>
              <td className="text-[17px] font-bold whitespace-nowrap">{say("power_w", row.power_w)}</td>
              <td className="text-[13px] whitespace-nowrap text-muted">
                {spanOf(say("power_w", row.low_w), say("power_w", row.high_w))}
              </td>
              {card.skies.length > 0 && (
                <>
                  <td className="whitespace-nowrap">
                    {row.bank_hours == null ? "no end" : say("duration_h", row.bank_hours)}
                  </td>
                  <td className="whitespace-nowrap">
                    {row.reserve_hours == null ? "no end" : say("duration_h", row.reserve_hours)}
                  </td>
                  {row.range_m.map((value, index) => (
                    <td key={card.skies[index]?.key}>{far(value)}</td>
                  ))}
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {card.tape.length > 0 && (
        <p className="mt-3 mb-1">
          Voltmeter, at rest:{" "}
          {card.tape.map(({ label, volts }, index) => (
            <span key={label}>
              {index > 0 && " · "}
              {label} <b className="tabular">{say("voltage_v", volts)}</b>
            </span>
          ))}
        </p>
      )}
      {card.reserve_frac != null && (
        <p className="m-0 text-[13px] text-muted">
          Range and hours run to the reserve of {say("fraction", card.reserve_frac)}. Watts by {card.method}.
        </p>
      )}
      {card.cautions.map((text) => (
        <p key={text} className="m-0 mt-1 text-[13px]">
          {text}
        </p>
      ))}
    </article>
  );
}
