import { useQuery } from "@tanstack/react-query";
import { client, dataOf } from "../api/client";
import { useDesign } from "../kit/document";
import { ChoiceField, NumberField, TextField } from "../kit/ui/fields";

/** The waters the boat is on. */
export function SiteFields({ zone, air }: { zone?: string; air?: number }) {
  const { design, apply } = useDesign();
  const places =
    useQuery({
      queryKey: ["places"],
      queryFn: () => dataOf(client.GET("/api/design/places")),
      staleTime: Number.POSITIVE_INFINITY,
    }).data ?? [];
  const site = design.site;
  const listed = places.findIndex(
    (item) => item.latitude_deg === site.latitude_deg && item.longitude_deg === site.longitude_deg,
  );
  return (
    <>
      <div className="mb-1.5 grid min-h-[30px] grid-cols-[1fr_auto] items-center">
        <label htmlFor="known-place">Known place</label>
        <select
          id="known-place"
          className="h-[28px] w-[170px] rounded-[5px] border border-edge bg-field px-1 text-ink"
          value={listed}
          onChange={(event) => {
            const chosen = places[Number(event.target.value)];
            if (chosen) apply((current) => ({ ...current, site: chosen }), "site");
          }}
        >
          {listed < 0 && <option value={-1}>your own</option>}
          {places.map((place, index) => (
            <option key={place.name} value={index}>
              {place.name}
            </option>
          ))}
        </select>
      </div>
      <TextField pointer="/site/name" label="Called" />
      <NumberField pointer="/site/latitude_deg" label="Latitude, north +" kind="angle_deg" step={0.5} />
      <NumberField pointer="/site/longitude_deg" label="Longitude, east +" kind="angle_deg" step={0.5} />
      <ChoiceField
        pointer="/site/water"
        label="Water"
        options={[
          ["fresh", "fresh"],
          ["salt", "salt"],
        ]}
        width={90}
      />
      <NumberField
        pointer="/plan/heading_deg"
        label="Heading; empty: any"
        kind="angle_deg"
        usual={null}
        step={5}
      />
      <NumberField
        pointer="/plan/air_temperature_c"
        label="Air by day"
        kind="temperature_c"
        usual={air ?? null}
        step={1}
      />
      {zone && <p className="m-0 text-[13px] text-muted">Clock: {zone.replaceAll("_", " ")}</p>}
    </>
  );
}
