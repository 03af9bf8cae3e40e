import { withoutPanels, withPlaceOf } from "../../boat/panels";
import { useDesign } from "../../kit/document";
import { Field, Fields } from "../../kit/ui/Field";
import { Item } from "../../kit/ui/fields";
import { LinkButton } from "../../kit/ui/LinkButton";

export function Panels() {
  const { design, apply, entries } = useDesign();
  const groups = design.panels ?? [];
  return (
    <>
      {groups.map((group, index) => {
        const p = (design.places ?? []).findIndex((item) => item.id === group.place_id);
        const c = (design.controllers ?? []).findIndex((item) => item.id === group.controller_id);
        const tilted = ((design.places ?? [])[p]?.tilt_deg ?? 0) > 0;
        return (
          <Item key={group.id} title={`Panel group ${index + 1}`} quiet>
            <Field at={`/places/${p}/name`} label="Where" />
            <Fields at={`/panels/${index}`} of="nameplate_w count" />
            <Fields at={`/places/${p}`} of={tilted ? "tilt_deg faces ventilation" : "tilt_deg ventilation"} />
            <Field at={`/controllers/${c}/efficiency`} label="Controller efficiency" />
            <Field at={`/controllers/${c}/current_limit_a`} label="Its current limit" />
            <LinkButton onClick={() => apply((now) => withoutPanels(now, entries, group.id), "panels")}>
              remove these
            </LinkButton>
          </Item>
        );
      })}
      <LinkButton onClick={() => apply((now) => withPlaceOf(now, entries), "panels")}>add panels</LinkButton>
    </>
  );
}
