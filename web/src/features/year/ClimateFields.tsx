import { useState } from "react";
import { type BoatDesign, client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { FileField } from "../../kit/ui/FileField";
import { ChoiceField, NumberField } from "../../kit/ui/fields";
import { MONTHS } from "../../kit/units";
import { ClimateStrip } from "./ClimateStrip";

const KNOWN = [
  ["word", "a word"],
  ["sun_hours", "full-sun hours"],
  ["day_counts", "kinds of days"],
] as const;

const CLIMATES = [
  ["", "usual for the latitude"],
  ["maritime", "maritime"],
  ["inland", "inland"],
  ["mediterranean", "Mediterranean"],
  ["trade_wind", "trade wind"],
  ["monsoon", "monsoon"],
  ["high_latitude", "high latitude"],
] as const;
const DAYS = ["sunny", "mixed", "grey"] as const;

/** In a few words, for the folded heading. */
export function climateSummary(design: BoatDesign): string {
  const climate = design.site.climate;
  if (climate?.known_by === "sun_hours") return "full-sun hours";
  if (climate?.known_by === "day_counts") return "kinds of days";
  return CLIMATES.find(([key]) => key === (climate?.word ?? ""))?.[1] ?? "";
}

const MOST_BYTES = 7_500_000;

/** A year of weather from a file: its months become the full-sun hours. */
function WeatherFile() {
  const { design, apply } = useDesign();
  const [told, setTold] = useState<{ said: string; wrong: string[] } | null>(null);
  async function read(text: string, name: string) {
    setTold({ said: "Reading the year …", wrong: [] });
    try {
      const body = { text, latitude_deg: design.site.latitude_deg };
      const found = await dataOf(client.POST("/api/year/weather", { body }));
      const wrong = found.problems.map((p) => `Line ${p.line}: ${p.message} Accepted: ${p.accepted}.`);
      const used = found.sun_hours.length === 12;
      setTold({
        said: used ? `${found.hours.toLocaleString("en-GB")} hours of ${found.kind} read.` : "",
        wrong,
      });
      if (!used) return;
      const source = `${name}, ${found.kind}`.slice(0, 120);
      apply(
        (current) =>
          withValue(current, "/site/climate", {
            ...current.site.climate,
            known_by: "sun_hours",
            sun_hours: found.sun_hours,
            source,
          }),
        "weather-file",
      );
    } catch {
      setTold({ said: "", wrong: ["The file could not be read; try again."] });
    }
  }
  return (
    <div className="mt-1 text-[13px]" data-weather>
      <FileField
        label="or a weather file: EPW, TMY3, PVGIS"
        name="Weather file"
        accept=".epw,.csv,.json,.txt"
        mostBytes={MOST_BYTES}
        onText={(text, file) => void read(text, file.name)}
        onTooLarge={() =>
          setTold({ said: "", wrong: ["This file is larger than 7.5 MB. Accepted: one year of hours."] })
        }
      />
      {told?.said && (
        <p role="status" className="m-0">
          {told.said}
        </p>
      )}
      {told && told.wrong.length > 0 && (
        <ul role="alert" className="m-0 list-none p-0 text-alarm">
          {told.wrong.map((text) => (
            <li key={text}>▲ {text}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** How the months of the place are known. */
export function ClimateFields() {
  const { design, apply } = useDesign();
  const climate = design.site.climate;
  const known = climate?.known_by ?? "word";
  return (
    <>
      <ClimateStrip />
      <ChoiceField
        pointer="/site/climate/known_by"
        label="Known by"
        options={KNOWN}
        width={150}
        write={(current, value) => {
          const usual = {
            ...current.site.climate,
            known_by: value as (typeof KNOWN)[number][0],
            sun_hours:
              value === "sun_hours" && !climate?.sun_hours?.length
                ? Array(12).fill(4)
                : (climate?.sun_hours ?? []),
            day_counts:
              value === "day_counts" && !climate?.day_counts?.length
                ? Array(12).fill({ sunny: 10, mixed: 10, grey: 10 })
                : (climate?.day_counts ?? []),
          };
          return withValue(current, "/site/climate", usual);
        }}
      />
      {known === "word" && (
        <label className="mb-1 flex items-center justify-between gap-2">
          Climate
          <select
            className="h-[28px] w-[170px] rounded-[5px] border border-edge bg-field px-1 text-ink"
            value={climate?.word ?? ""}
            onChange={(event) => {
              const word = event.target.value || null;
              apply((current) => withValue(current, "/site/climate/word", word), "climate-word");
            }}
          >
            {CLIMATES.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
      )}
      {known === "sun_hours" && (
        <div className="grid grid-cols-3 gap-x-2">
          {MONTHS.map((name, i) => (
            <span key={name} className="text-[12.5px] text-muted">
              <span className="block">{name}</span>
              <NumberField
                pointer={`/site/climate/sun_hours/${i}`}
                label={name}
                name={`Full-sun hours in ${name}`}
                kind="duration_h"
                step={0.1}
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
              <NumberField
                key={kind}
                pointer={`/site/climate/day_counts/${i}/${kind}`}
                label={kind}
                name={`${kind} days in ${name}`}
                kind="count"
                step={1}
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
