import type { Burden } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useSay } from "../../kit/preferences";
import { Head, View } from "../../kit/ui/View";

const LEVEL_DEG = 0.05; // of list that is none

/** What the array costs the boat: weight, money, stiffness, wind, view and years; and the shade it gives. */
export function BurdenView() {
  const { data, stale, error, retry } = useStudy("array/burden");
  if (data === undefined) return <Waiting error={error} retry={retry} what="What the array costs" />;
  if (data === null)
    return (
      <p className="m-auto max-w-[44ch] text-center text-muted">
        No panels, no burden. Add a place with panels on the left to see what it weighs, catches and costs.
      </p>
    );
  return (
    <View label="What the array costs the boat" stale={stale} className="pt-1" data-burden>
      <Whole burden={data} />
      <Places burden={data} />
      <Years burden={data} />
    </View>
  );
}

function listWords(deg: number, say: ReturnType<typeof useSay>): string {
  if (Math.abs(deg) < LEVEL_DEG) return "level";
  return `${say("angle_deg", Math.abs(deg))} to ${deg > 0 ? "starboard" : "port"}`;
}

function Whole({ burden }: { burden: Burden }) {
  const say = useSay();
  const trim = burden.trim_m;
  const rows: [string, string, string][] = [
    ["Mass with frames", say("mass_kg", burden.mass_kg), `${burden.watts_per_kg.toFixed(1)} W a kilogram`],
    ["Panels to buy", say("money", burden.price), "as given, else usual prices; invented coins"],
    [
      "Stiffness it takes",
      say("fraction", burden.stiffness_frac),
      `the centre of gravity rises ${say("length_m", burden.rise_m)}; an estimate, no stability book`,
    ],
    [
      "List and trim",
      listWords(burden.list_deg, say),
      Math.abs(trim) < 0.002
        ? "even keel"
        : `${(Math.abs(trim) * 100).toFixed(1)} cm by the ${trim > 0 ? "bow" : "stern"}`,
    ],
    [
      "Windage",
      say("power_w", burden.windage_w),
      burden.raised_m2 > 0
        ? `at the planned speed, for ${burden.raised_m2.toFixed(2)} m² that face bow or stern; in the Hull's curve`
        : "nothing stands across the wind from ahead",
    ],
    [
      "View blocked",
      `${Math.round(burden.blocked_deg)}°`,
      `of the horizon from the helm, ${Math.round(burden.blocked_ahead_deg)}° of them ahead`,
    ],
  ];
  if (burden.air_draught_m != null)
    rows.push([
      "Air draught",
      say("length_m", burden.air_draught_m),
      burden.folded_m != null && burden.folded_m < burden.air_draught_m - 0.01
        ? `${say("length_m", burden.folded_m)} with hinged places folded and loose things stowed`
        : "folding lowers nothing; check masts and poles, too",
    ]);
  if (burden.seat_shade_frac != null)
    rows.push([
      "Shade it gives",
      say("fraction", burden.seat_shade_frac),
      "of the seats below, around noon: wanted",
    ]);
  return (
    <table className="plain-table" data-burden-whole>
      <tbody>
        {rows.map(([what, value, more]) => (
          <tr key={what}>
            <td className="w-[150px] max-[720px]:w-[90px]">{what}</td>
            <td className="w-[110px] max-[720px]:w-[84px]">
              <b>{value}</b>
            </td>
            <td className="text-left! text-[13px] text-muted">{more}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Places({ burden }: { burden: Burden }) {
  const say = useSay();
  const newton = (value: number) => `${Math.round(value)} N`;
  return (
    <>
      <h2 className="mt-3 mb-0 text-[13.5px] font-bold text-muted">Place by place</h2>
      <table className="plain-table">
        <Head
          of={[
            "place",
            "mass",
            "alone it lists",
            `a ${say("speed_mps", burden.gust_mps)} gust pulls`,
            "fold above",
            "lasts",
            "coins",
          ]}
        />
        <tbody>
          {burden.places.map((place) => (
            <tr key={place.place_id} data-burden-place={place.place_id}>
              <td>{place.name}</td>
              <td>{say("mass_kg", place.mass_kg)}</td>
              <td>{place.list_deg == null ? "–" : listWords(place.list_deg, say)}</td>
              <td className={place.overloaded ? "text-alarm" : ""}>
                {place.overloaded && "▲ "}
                {newton(place.gust_n)}
                {place.holds_n != null && (
                  <span className="block text-[12.5px] text-muted">they take {newton(place.holds_n)}</span>
                )}
              </td>
              <td>
                {place.fold_mps == null ? "–" : <b>{say("speed_mps", place.fold_mps)}</b>}
                {place.fold_mps != null && place.holds_n == null && (
                  <span className="block text-[12.5px] text-muted">by rule</span>
                )}
              </td>
              <td className="whitespace-nowrap">
                {place.life_low_years}–{place.life_high_years} years
                {place.cover_wh != null && (
                  <span className="block text-[12.5px] text-muted">
                    a cover {place.covered ? "takes" : "would take"} {say("energy_wh", place.cover_wh)}
                  </span>
                )}
              </td>
              <td>{Math.round(place.price)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function Years({ burden }: { burden: Burden }) {
  return (
    <>
      <h2 className="mt-3 mb-0 text-[13.5px] font-bold text-muted">
        What is left of its yield after so many seasons
      </h2>
      <table className="plain-table">
        <tbody>
          <tr>
            <td>seasons</td>
            {burden.yields.map((row) => (
              <td key={row.seasons} className="text-muted">
                {row.seasons}
              </td>
            ))}
          </tr>
          <tr>
            <td>left</td>
            {burden.yields.map((row) => (
              <td key={row.seasons} className="whitespace-nowrap">
                <b>{Math.round(row.low_frac * 100)}</b>–{Math.round(row.high_frac * 100)} %
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p className="mt-2 mb-1 text-[13px] text-muted">
        Estimates to compare by. Fastenings want a load test, stability a check by someone licensed; fold
        early.
      </p>
    </>
  );
}
