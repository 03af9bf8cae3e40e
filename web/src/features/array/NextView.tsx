import { type NextPanels, refitted } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Told } from "../../kit/ui/Told";
import { Head, View } from "../../kit/ui/View";
import { unitOf } from "../../kit/units";

const PER_COINS = 100;

/** The next best place and panel, by miles a day, for the money and for the weight; and the honest enough. */
export function NextView() {
  const say = useSay();
  const { apply } = useDesign();
  const units = useUnits();
  const { data, stale, error, retry } = useStudy("array/next");
  if (!data) return <Waiting error={error} retry={retry} what="The next panel" />;
  return (
    <View label="One more panel" stale={stale} className="pt-1" data-next>
      <p className="m-0 mb-2 text-[15px] font-bold" data-next-verdict>
        <Told sentence={data.verdict} />
      </p>
      {data.candidates.length > 0 && (
        <div className="max-w-full overflow-x-auto" tabIndex={0} role="region" aria-label="Panels that fit">
          <table className="plain-table">
            <Head
              of={[
                "place and panel",
                "adds",
                data.measure === "range" ? "range" : "a day",
                `per ${PER_COINS} coins`,
                `per ${units.mass}`,
              ]}
              quiet="try it"
            />
            <tbody>
              {data.candidates.map((item) => (
                <tr key={`${item.place}/${item.panel}`} data-candidate={item.place}>
                  <td>
                    <b>{item.place}</b>
                    <span className="block text-[13px] text-muted">
                      {item.count > 1 ? `${item.count} × ` : ""}
                      {item.panel}, {say("mass_kg", item.mass_kg)}, {say("money", item.price)}
                    </span>
                  </td>
                  <td className="whitespace-nowrap">
                    {say("power_w", item.watts)}
                    <span className="block text-[13px] text-muted">{say("energy_wh", item.gain_wh)}</span>
                  </td>
                  <td className="whitespace-nowrap">
                    <b>{item.gain_m == null ? "the sun keeps up" : say("distance_m", item.gain_m, true)}</b>
                    {item.gain_frac != null && (
                      <span className="block text-[13px] text-muted">{say("fraction", item.gain_frac)}</span>
                    )}
                  </td>
                  <td>{item.m_per_coin == null ? "–" : say("distance_m", item.m_per_coin * PER_COINS)}</td>
                  <td>
                    {item.m_per_kg == null
                      ? "–"
                      : say("distance_m", item.m_per_kg * unitOf("mass_kg", units)[1])}
                  </td>
                  <td>
                    <LinkButton
                      aria-label={`Try it: ${item.place}`}
                      onClick={() => apply((boat) => refitted(boat, item.refit), "next-panel")}
                    >
                      try it
                    </LinkButton>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Footnote measure={data.measure} />
    </View>
  );
}

function Footnote({ measure }: { measure: NextPanels["measure"] }) {
  return (
    <p className="mt-2 mb-1 text-[13px] text-muted">
      The same day solved again with each on board, its mass counted in;{" "}
      {measure === "range" ? "range" : "miles"} as the rail below counts them. Prices carry frame, controller
      and cable, in invented coins. Undo brings your boat back.
    </p>
  );
}
