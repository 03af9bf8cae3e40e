/** A place by hand: a click on the globe, or its latitude and longitude. */
import { lazy, Suspense, useState } from "react";
import type { BoatDesign } from "../api/client";
import { INPUT, Problem } from "../kit/ui/fields";

type Site = BoatDesign["site"];

const Globe = lazy(() => import("./Globe").then((found) => ({ default: found.Globe })));
const FINE = 10; // tenths of a degree

const tenth = (degrees: number) => Math.round(degrees * FINE) / FINE;

/** A place that nobody has named yet, by where it is. */
export function placeAt(latitude_deg: number, longitude_deg: number): Site {
  const [lat, lon] = [tenth(latitude_deg), tenth(longitude_deg)];
  const name = `${Math.abs(lat)}° ${lat < 0 ? "S" : "N"}, ${Math.abs(lon)}° ${lon < 0 ? "W" : "E"}`;
  return { name, latitude_deg: lat, longitude_deg: lon, altitude_m: 0 } as Site;
}

/** Degrees as they are typed, with a point or a comma; null where they are none. */
export function degreesOf(text: string, most: number): number | null {
  const value = Number(text.trim().replace(",", ".").replace("−", "-"));
  return text.trim() !== "" && Number.isFinite(value) && Math.abs(value) <= most ? value : null;
}

const intoView = (panel: HTMLDivElement | null) => panel?.scrollIntoView({ block: "center" });

export function WorldMap({ site, onSite }: { site: Site | undefined; onSite: (site: Site) => void }) {
  const [texts, setTexts] = useState<[string, string] | null>(null);
  const here: [number, number] = [site?.latitude_deg ?? 0, site?.longitude_deg ?? 0];
  const shown = texts ?? [String(tenth(here[0])), String(tenth(here[1]))];
  function pick(latitude: number, longitude: number) {
    setTexts(null);
    onSite(placeAt(latitude, longitude));
  }
  function type(at: 0 | 1, text: string) {
    const next: [string, string] = at === 0 ? [text, shown[1]] : [shown[0], text];
    setTexts(next);
    const [lat, lon] = [degreesOf(next[0], 90), degreesOf(next[1], 180)];
    if (lat !== null && lon !== null) onSite(placeAt(lat, lon));
  }
  const wrong = degreesOf(shown[0], 90) === null || degreesOf(shown[1], 180) === null;
  return (
    <div ref={intoView} className="grid gap-1.5 rounded-[5px] border border-edge bg-field p-2 text-[13.5px]">
      <Suspense fallback={<div className="mx-auto size-[196px] rounded-full bg-water-soft" />}>
        <Globe at={here} onPick={pick} />
      </Suspense>
      <p className="m-0 text-center text-[12.5px] text-muted">Drag to turn, click where her water is.</p>
      <div className="flex items-center gap-2">
        {(["Latitude", "Longitude"] as const).map((name, at) => (
          <label key={name} className="flex items-center gap-1">
            {name}
            <input
              className={`${INPUT} w-[64px]`}
              inputMode="decimal"
              value={shown[at]}
              onChange={(event) => type(at as 0 | 1, event.target.value)}
            />
          </label>
        ))}
      </div>
      {wrong && <Problem id="world-place" text="Degrees: -90 to 90 north, -180 to 180 east." />}
    </div>
  );
}
