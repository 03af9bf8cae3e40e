/** A place by hand: a click on the world, or its latitude and longitude. */
import { type MouseEvent, useState } from "react";
import type { BoatDesign } from "../api/client";
import { INPUT, Problem } from "../kit/ui/fields";
import land from "./land.png";

type Site = BoatDesign["site"];

const WIDE = 270; // px; half as tall
const TALL = 135;
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
  function click(event: MouseEvent<HTMLButtonElement>) {
    if (event.detail === 0) return; // by a key: the fields below are for that
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
    setTexts(null);
    onSite(placeAt(90 - 180 * y, 360 * x - 180));
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
      <button
        type="button"
        aria-label="The world: click where her water is"
        className="relative block cursor-crosshair border border-hairline bg-water-soft p-0"
        style={{ width: WIDE, height: TALL }}
        onClick={click}
      >
        <img src={land} alt="" width={WIDE} height={TALL} className="block h-full w-full" />
        <svg width={WIDE} height={TALL} className="absolute inset-0" aria-hidden="true">
          <circle
            cx={((here[1] + 180) / 360) * WIDE}
            cy={((90 - here[0]) / 180) * TALL}
            r="5"
            className="fill-sun stroke-ink stroke-[1.4]"
          />
        </svg>
      </button>
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
