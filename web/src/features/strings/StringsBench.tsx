import type { StringsPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { Field, Fields } from "../../kit/ui/Field";
import { Fold } from "../../kit/ui/Fold";
import { Group } from "../../kit/ui/fields";
import { Bench } from "../../kit/ui/Page";
import { Pick } from "../../kit/ui/Pick";
import { useFolds } from "../../kit/ui/useFolds";

import { ControllerList } from "./ControllerList";
import { ProposeFields } from "./ProposeFields";

interface Props {
  picture: StringsPicture | undefined;
  chosen: string | null;
  onChoose: (id: string) => void;
}

/** Which panels stand in series, on which controller, and what a wiring is held against. */
export function StringsBench({ picture, chosen, onChoose }: Props) {
  const { design } = useDesign();
  const say = useSay();
  const fold = useFolds<"propose" | "string" | "box" | "limits">("string");
  const groups = design.panels ?? [];
  const rung = picture?.rungs.find((item) => item.key === chosen) ?? picture?.rungs[0];
  const g = Math.max(
    groups.findIndex((group) => group.id === rung?.group_id),
    0,
  );
  const group = groups[g];
  const boxAt = (id: string | undefined) => (design.controllers ?? []).findIndex((item) => item.id === id);
  const drawn = boxAt(rung?.controller_id); // none where the picture is still that of another boat
  const c = drawn >= 0 ? drawn : boxAt(group?.controller_id);
  const p = (design.places ?? []).findIndex((item) => item.id === group?.place_id);
  return (
    <Bench of="Strings and controllers">
      <Group title="Panels and what they feed">
        {groups.length === 0 && (
          <p className="mt-0 mb-1 text-muted">No panels yet. Put some on the boat at the Array first.</p>
        )}
        {picture?.rungs.map((item) => (
          <Pick
            key={item.key}
            chosen={item.key === rung?.key}
            title={item.name}
            right={say("power_w", item.nameplate_w)}
            data-string={item.key}
            onClick={() => onChoose(item.key)}
            below={
              <span className={`block text-[13px] ${item.over || item.low ? "text-alarm" : "text-muted"}`}>
                {item.series > 1
                  ? `${item.series} in series × ${item.strings}`
                  : item.strings === 1
                    ? "one panel"
                    : `${item.strings} side by side`}
                {item.left_over > 0 && `, ${item.left_over} left over`}
                {` · ${item.boxes > 1 ? `${item.boxes} × ` : ""}${item.controller}`}
              </span>
            }
          />
        ))}
      </Group>
      {group && (
        <Fold title="A wiring for you" summary="propose" {...fold("propose")}>
          <ProposeFields />
        </Fold>
      )}
      {group && (
        <>
          <Fold title="Its strings" summary={rung ? `${rung.series} in series` : ""} {...fold("string")}>
            {picture?.board.by_hand ? (
              <p className="m-0 mb-1 text-[13px] text-muted">
                {rung?.series} in series, wired by hand on the board.
              </p>
            ) : (
              <Field at={`/panels/${g}/series`} />
            )}
            <Field at={`/places/${p}/cable_m`} />
            {rung && !rung.given && (
              <p className="m-0 mb-1 text-[13px] text-muted">
                Volts are usual ones for its cells. Give Voc, Isc, Vmp and Imp at the Array to be sure.
              </p>
            )}
          </Fold>
          <Fold
            title="Its controller"
            summary={rung?.limit_v ? `up to ${Math.round(rung.limit_v)} V` : "limit not known"}
            {...fold("box")}
          >
            <ControllerList c={c} />
            <Fields
              at={`/controllers/${c}`}
              of="name kind count most_pv_v most_pv_a current_limit_a headroom_v least_bank_v most_bank_v efficiency light_efficiency full_efficiency own_power_w inputs"
            />
            {(design.banks ?? []).length > 1 && <Field at={`/controllers/${c}/bank_id`} />}
            <Field at={`/controllers/${c}/cable_m`} />
          </Fold>
        </>
      )}
      <Fold
        title="Limits to hold"
        summary={`${design.wiring?.coldest_c ?? -10} °C at the coldest`}
        {...fold("limits")}
      >
        <Fields
          at="/wiring"
          of="coldest_c hottest_cell_c drop_frac bank_cable_m motor_cable_m engine_space bundled fuse_at_m"
        />
      </Fold>
    </Bench>
  );
}
