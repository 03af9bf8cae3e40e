import { useDesign } from "../../kit/document";
import { AddPart, Fields, RemovePart } from "../../kit/ui/Field";
import { Item } from "../../kit/ui/fields";

const SKYLINE = "/site/skyline";

/** Trees, hills and buildings ashore, by bearing and height; they count for a boat that lies still. */
export function SkylineFields() {
  const { design } = useDesign();
  return (
    <>
      <p className="mt-0 mb-1 text-[13px] text-muted">
        What hides the sun at a berth, at anchor or from a rack ashore. Under way it does not count.
      </p>
      {(design.site.skyline ?? []).map((part, index) => (
        <Item key={part.id} title={part.name ?? ""} quiet>
          <Fields at={`${SKYLINE}/${index}`} of="name from_deg to_deg height_m distance_m" />
          <RemovePart from={SKYLINE} id={part.id} words="remove" />
        </Item>
      ))}
      <AddPart to={SKYLINE} words="add trees, a hill or a building" />
    </>
  );
}
