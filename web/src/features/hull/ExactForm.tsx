import type { HullPicture } from "../../api/client";
import { Fields } from "../../kit/ui/Field";

/** Form numbers for those who have them; empty ones are usual for the type. */
export function ExactForm({ picture }: { picture: HullPicture | undefined }) {
  return (
    <>
      {picture && (
        <p className="mt-0 mb-1.5 text-[13px] text-muted">
          Computed by {picture.model}: {picture.model_reason}.
        </p>
      )}
      <Fields
        at="/hull"
        of="correlation_allowance prismatic_coefficient midship_coefficient waterplane_coefficient lcb_percent margin appendage_area_m2 frontal_area_m2"
      />
      {(picture?.raised_panels_m2 ?? 0) > 0 && (
        <p className="m-0 mb-1 text-[13px] text-muted">
          and {picture?.raised_panels_m2.toFixed(2)} m² of panels that stand up to bow or stern
        </p>
      )}
      <Fields at="/hull" of="air_drag_coefficient spacing_m transom_depth_m deadrise_deg lcg_share" ifUsual />
    </>
  );
}
