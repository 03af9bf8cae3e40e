import { useList } from "../asking/lists";
import { useDesign } from "../kit/document";
import { Field, Fields } from "../kit/ui/Field";

/** The waters the boat is on. */
export function SiteFields({ zone }: { zone?: string }) {
  const { design, apply } = useDesign();
  const places = useList("places").data ?? [];
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
      <Fields at="/site" of="name latitude_deg longitude_deg" />
      <Field at="/site/water" width={90} />
      <Fields at="/plan" of="heading_deg air_temperature_c water_temperature_c" />
      {zone && <p className="m-0 text-[13px] text-muted">Clock: {zone.replaceAll("_", " ")}</p>}
    </>
  );
}
