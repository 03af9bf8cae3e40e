import { useDesign } from "../../kit/document";
import { NumberField, TextField } from "../../kit/ui/fields";
import { withoutSkyline, withSkyline } from "./parts";

/** Trees, hills and buildings ashore, by bearing and height; they count for a boat that lies still. */
export function SkylineFields() {
  const { design, apply } = useDesign();
  const parts = design.site.skyline ?? [];
  return (
    <>
      <p className="mt-0 mb-1 text-[13px] text-muted">
        What hides the sun at a berth, at anchor or from a rack ashore. Under way it does not count.
      </p>
      {parts.map((part, s) => (
        <fieldset key={part.id} className="m-0 mb-2 border-0 border-b border-solid border-hairline p-0 pb-1">
          <legend className="sr-only">{part.name}</legend>
          <TextField pointer={`/site/skyline/${s}/name`} label="Name" width={150} />
          <NumberField
            pointer={`/site/skyline/${s}/from_deg`}
            label="From bearing"
            kind="angle_deg"
            step={5}
            hint="True, clockwise to the next: from 300 to 20 goes through north"
          />
          <NumberField pointer={`/site/skyline/${s}/to_deg`} label="To bearing" kind="angle_deg" step={5} />
          <NumberField
            pointer={`/site/skyline/${s}/height_m`}
            label="Height"
            kind="length_m"
            step={1}
            hint="Above the panels"
          />
          <NumberField pointer={`/site/skyline/${s}/distance_m`} label="Distance" kind="length_m" step={5} />
          <button
            type="button"
            className="link"
            onClick={() => apply((d) => withoutSkyline(d, part.id), "shore")}
          >
            remove
          </button>
        </fieldset>
      ))}
      <button type="button" className="link" onClick={() => apply(withSkyline, "shore")}>
        add trees, a hill or a building
      </button>
    </>
  );
}
