import { withoutPanels, withPlaceOf } from "../../boat/panels";
import { AIR, SIDES } from "../../boat/words";
import { useDesign } from "../../kit/document";
import { ChoiceField, NumberField, TextField } from "../../kit/ui/fields";

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
