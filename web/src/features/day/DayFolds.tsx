import { useQuery } from "@tanstack/react-query";
import { client, dataOf } from "../../api/client";
import { useDesign } from "../../app/design";
import { withoutPanels, withPlaceOf } from "../../app/panels";
import { ChoiceField, NumberField, TextField } from "../../shared/ui/fields";

const SIDES = [
  ["bow", "to the bow"],
  ["starboard", "to starboard"],
  ["stern", "to the stern"],
  ["port", "to port"],
] as const;
const AIR = [
  ["open", "air on both sides"],
  ["on_surface", "lying on deck"],
] as const;

export function PlaceFields({ zone, air }: { zone: string | undefined; air: number | undefined }) {
  const { design, apply } = useDesign();
  const places =
    useQuery({
      queryKey: ["places"],
      queryFn: () => dataOf(client.GET("/api/places")),
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

export function Panels() {
  const { design, apply } = useDesign();
  const groups = design.panels ?? [];
  return (
    <>
      {groups.map((group, index) => {
        const place = (design.places ?? []).findIndex((item) => item.id === group.place_id);
        const controller = (design.controllers ?? []).findIndex((item) => item.id === group.controller_id);
        const tilted = ((design.places ?? [])[place]?.tilt_deg ?? 0) > 0;
        return (
          <fieldset
            key={group.id}
            className="m-0 mb-2 border-0 border-b border-solid border-hairline p-0 pb-1"
          >
            <legend className="sr-only">Panel group {index + 1}</legend>
            <TextField pointer={`/places/${place}/name`} label="Where" width={150} />
            <NumberField
              pointer={`/panels/${index}/nameplate_w`}
              label="Nameplate, each"
              kind="power_w"
              step={5}
            />
            <NumberField pointer={`/panels/${index}/count`} label="How many" kind="count" step={1} />
            <NumberField
              pointer={`/places/${place}/tilt_deg`}
              label="Tilt; flat is 0"
              kind="angle_deg"
              step={5}
            />
            {tilted && <ChoiceField pointer={`/places/${place}/faces`} label="Tilted" options={SIDES} />}
            <ChoiceField pointer={`/places/${place}/ventilation`} label="Cooling" options={AIR} />
            <NumberField
              pointer={`/controllers/${controller}/efficiency`}
              label="Controller efficiency"
              kind="fraction"
              step={1}
            />
            <NumberField
              pointer={`/controllers/${controller}/current_limit_a`}
              label="Its current limit"
              kind="ratio"
              unit="A"
              usual={null}
              step={5}
              hint="Empty: it never clips"
            />
            <button
              type="button"
              className="link"
              onClick={() => apply((current) => withoutPanels(current, group.id), "panels")}
            >
              remove these
            </button>
          </fieldset>
        );
      })}
      <button
        type="button"
        className="link"
        onClick={() => apply((current) => withPlaceOf(current), "panels")}
      >
        add panels
      </button>
    </>
  );
}
