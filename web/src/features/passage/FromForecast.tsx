import { useMutation } from "@tanstack/react-query";
import { client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useUnits } from "../../kit/preferences";
import { Alarm } from "../../kit/ui/Alarm";
import { FileField } from "../../kit/ui/FileField";
import { LinkButton } from "../../kit/ui/LinkButton";
import { told } from "../../kit/units";

const LARGEST_BYTES = 200_000;

/** Sky and wind of the day by the hour, from the forecast service or a file; every entry stays one's own. */
export function FromForecast() {
  const { design, apply } = useDesign();
  const units = useUnits();
  const taken = useMutation({
    mutationFn: async (text: string | null | undefined) => {
      if (text === null) throw new Error("A forecast file is 200 kB at most.");
      const { site, plan } = design;
      const asked = { site, date: plan.date ?? "", days: 1 };
      const forecast = await dataOf(
        text === undefined
          ? client.POST("/api/year/forecast", { body: asked })
          : client.POST("/api/year/forecast/read", { body: { text } }),
      );
      return dataOf(client.POST("/api/passage/forecast", { body: { design, forecast } }));
    },
    onSuccess: (found) =>
      apply((current) => {
        const entries: [string, unknown][] = [
          ["/plan/sky", found.sky],
          ["/passage/skies", found.skies],
          ["/passage/winds", found.winds],
        ];
        if (found.wind_mps != null) entries.push(["/plan/wind_mps", found.wind_mps]);
        if (found.wind_from_deg != null) entries.push(["/passage/wind_from_deg", found.wind_from_deg]);
        return entries.reduce((boat, [at, value]) => withValue(boat, at, value), current);
      }, "passage-forecast"),
  });
  return (
    <>
      <div className="mb-1">
        <LinkButton className="block" disabled={taken.isPending} onClick={() => taken.mutate(undefined)}>
          by the forecast
        </LinkButton>
        <FileField
          label="or by a forecast in a file"
          name="Forecast file"
          accept=".json,application/json"
          mostBytes={LARGEST_BYTES}
          onText={(text) => taken.mutate(text)}
          onTooLarge={() => taken.mutate(null)}
        />
      </div>
      {taken.error && <Alarm>{taken.error.message}</Alarm>}
      {taken.data && <p className="m-0 mb-1 text-[13px] text-muted">{told(taken.data.told, units)}</p>}
    </>
  );
}
