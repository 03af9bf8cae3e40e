import type { ArrayAdvice, ArrayPicture } from "../../api/client";
import { useSay } from "../../kit/preferences";
import { Head, View } from "../../kit/ui/View";

/** The deck's numbers as tables, for reading and for screen readers. */
export function PanelList({ picture, advice }: { picture: ArrayPicture; advice: ArrayAdvice | undefined }) {
  const say = useSay();
  const costOf = (id: string) => {
    const found = advice?.costs.find((item) => item.id === id);
    return found ? say("energy_wh", found.cost_wh) : "…";
  };
  const place = (id: string) => picture.places.find((item) => item.id === id)?.name ?? "";
  return (
    <View label="Panels in a list" className="pt-1">
      <table className="plain-table">
        <Head of={["place", "panels", "nameplate", "mass", "this day", "lost to shade"]} />
        <tbody>
          {picture.places.map((item) => (
            <tr key={item.id} data-place-row={item.id}>
              <td>
                {item.name}
                {item.missing && <span className="block text-[12.5px] text-muted">{item.missing}</span>}
              </td>
              <td>{item.panels}</td>
              <td>{say("power_w", item.nameplate_w)}</td>
              <td>{say("mass_kg", item.mass_kg)}</td>
              <td>{item.missing ? "–" : <b>{say("energy_wh", item.day_wh)}</b>}</td>
              <td>{item.missing ? "not known" : say("fraction", item.lost_frac)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2 className="mt-3 mb-0 text-[13.5px] font-bold text-muted">Panel by panel</h2>
      <table className="plain-table">
        <Head of={["panel", "this day", "per kW", "keeps"]} />
        <tbody>
          {picture.panels.map((panel) => (
            <tr key={`${panel.group_id}/${panel.number}`}>
              <td>
                {place(panel.place_id)}, {panel.number + 1}
              </td>
              <td>
                <b>{say("energy_wh", panel.day_wh)}</b>
              </td>
              <td>{panel.yield_h.toFixed(1)} kWh</td>
              <td>{say("fraction", panel.kept_frac)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {picture.things.length > 0 && (
        <>
          <h2 className="mt-3 mb-0 text-[13.5px] font-bold text-muted">What stands in the sun</h2>
          <table className="plain-table">
            <Head of={["it is", "top", "costs this day"]} />
            <tbody>
              {picture.things.map((thing) => (
                <tr key={thing.id}>
                  <td>{thing.name}</td>
                  <td>{say("length_m", Math.max(thing.tip.z_m, thing.foot.z_m))}</td>
                  <td>
                    <b>{thing.stands ? costOf(thing.id) : "stowed"}</b>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <p className="mt-2 mb-1 text-[13px] text-muted">
        Panels are counted where they stand, before wiring and controller; the cost of what stands in the sun
        is at the bank.
      </p>
    </View>
  );
}
