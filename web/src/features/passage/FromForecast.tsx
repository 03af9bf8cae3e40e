import { useState } from "react";
import { client, dataOf, type Forecast, type Sentence } from "../../api/client";
import { ForecastSource } from "../../boat/ForecastSource";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useUnits } from "../../kit/preferences";
import { told } from "../../kit/units";

/** Sky, wind and waves by the hour and day, from the forecast service or a file; every entry stays one's own. */
export function FromForecast() {
  const { design, apply, entries } = useDesign();
  const units = useUnits();
  const [said, setSaid] = useState<Sentence | null>(null);
  async function take(forecast: Forecast) {
    setSaid(null);
    const found = await dataOf(client.POST("/api/passage/forecast", { body: { design, forecast } }));
    const put: [string, unknown][] = [
      ["/plan/sky", found.sky],
      ["/passage/skies", found.skies],
      ["/passage/winds", found.winds],
    ];
    if (found.wind_mps != null) put.push(["/plan/wind_mps", found.wind_mps]);
    if (found.wave_height_m != null) put.push(["/plan/wave_height_m", found.wave_height_m]);
    if (found.wind_from_deg != null) put.push(["/passage/wind_from_deg", found.wind_from_deg]);
    const taken = (boat: typeof design) => put.reduce((b, [at, value]) => withValue(b, at, value), boat);
    apply(taken, "passage-forecast");
    setSaid(found.told);
  }
  return (
    <>
      <ForecastSource
        words="by the forecast"
        fileWords="or by a forecast in a file"
        days={entries.at("/passage/winds/0/day").most ?? 1}
        onForecast={take}
      />
      {said && <p className="m-0 mb-1 text-[13px] text-muted">{told(said, units)}</p>}
    </>
  );
}
