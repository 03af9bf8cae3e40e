import { type BoatDesign, client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import type { Entries } from "../../kit/entries";
import { valueAt, withValue } from "../../kit/pointer";
import { Field } from "../../kit/ui/Field";
import { ReadFile } from "../../kit/ui/ReadFile";
import { MONTHS } from "../../kit/units";
import { ClimateStrip } from "./ClimateStrip";

const DAYS = ["sunny", "mixed", "grey"] as const;

/** In a few words, for the folded heading. */
export function climateSummary(design: BoatDesign, entries: Entries): string {
  const { known_by = "word", word } = design.site.climate ?? {};
  const at = "/site/climate";
  if (known_by !== "word") return entries.words(`${at}/known_by`)[known_by] ?? "";
  return (word && entries.words(`${at}/word`)[word]) || "usual for the place";
}

const MOST_BYTES = 7_500_000;

/** A year of weather from a file: its months become the full-sun hours. */
function WeatherFile() {
  const { design, apply } = useDesign();
  async function read(text: string, file: File) {
    const body = { text, latitude_deg: design.site.latitude_deg };
    const found = await dataOf(client.POST("/api/year/weather", { body }));
    if (found.sun_hours.length !== 12) return { problems: found.problems };
    const source = `${file.name}, ${found.kind}`.slice(0, 120);
    const known = { known_by: "sun_hours", sun_hours: found.sun_hours, source };
    apply((now) => withValue(now, "/site/climate", { ...now.site.climate, ...known }), "weather-file");
    const said = `${found.hours.toLocaleString("en-GB")} hours of ${found.kind} read.`;
    return { said, problems: found.problems };
  }
  return (
    <div className="mt-1 text-[13px]" data-weather>
      <ReadFile
        label="or a weather file: EPW, TMY3, PVGIS"
        name="Weather file"
        accept=".epw,.csv,.json,.txt"
        mostBytes={MOST_BYTES}
        tooLarge="This file is larger than 7.5 MB. Accepted: one year of hours."
        read={read}
      />
    </div>
  );
}

/** How the months of the place are known. */
export function ClimateFields() {
  const { design, entries } = useDesign();
  const known = design.site.climate?.known_by ?? "word";

  /** What the new way needs begins at a usual one. */
  function known_by(current: BoatDesign, way: string): BoatDesign {
    const numbers = `/site/climate/${way}`;
    const known = withValue(current, "/site/climate/known_by", way);
    const empty = way !== "word" && !(valueAt(current, numbers) as unknown[] | undefined)?.length;
    return empty ? withValue(known, numbers, entries.begun(numbers)) : known;
  }

  return (
    <>
      <ClimateStrip />
      <Field at="/site/climate/known_by" write={known_by} />
      {known === "word" && <Field at="/site/climate/word" width={170} />}
      {known === "sun_hours" && (
        <div className="grid grid-cols-3 gap-x-2">
          {MONTHS.map((name, i) => (
            <span key={name} className="text-[12.5px] text-muted">
              <span className="block">{name}</span>
              <Field
                at={`/site/climate/sun_hours/${i}`}
                label={`Full-sun hours in ${name}`}
                width={62}
                bare
              />
            </span>
          ))}
        </div>
      )}
      {known === "day_counts" && (
        <div
          className="grid grid-cols-[34px_1fr_1fr_1fr] gap-x-1.5 text-[12.5px] text-muted"
          aria-hidden="true"
        >
          <span />
          {DAYS.map((kind) => (
            <span key={kind}>{kind}</span>
          ))}
        </div>
      )}
      {known === "day_counts" &&
        MONTHS.map((name, i) => (
          <div
            key={name}
            className="mb-0.5 grid grid-cols-[34px_1fr_1fr_1fr] items-center gap-x-1.5 text-[12.5px]"
          >
            <span className="text-muted">{name}</span>
            {DAYS.map((kind) => (
              <Field
                key={kind}
                at={`/site/climate/day_counts/${i}/${kind}`}
                label={`${kind} days in ${name}`}
                width={52}
                bare
              />
            ))}
          </div>
        ))}
      <WeatherFile />
      <p className="mt-1 mb-1 text-[13px] text-muted">
        {known === "day_counts"
          ? "Sunny, mixed and grey days of each month."
          : known === "sun_hours"
            ? "Full-sun hours a day on the level: kWh on a square metre. An almanac or a solar map has them."
            : "Typical months; your own numbers are better."}
      </p>
    </>
  );
}
