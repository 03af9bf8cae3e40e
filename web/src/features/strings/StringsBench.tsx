import type { StringsPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { Fold } from "../../kit/ui/Fold";
import { CheckField, ChoiceField, Group, NumberField, TextField } from "../../kit/ui/fields";
import { useFolds } from "../../kit/ui/useFolds";
import { shown } from "../../kit/units";
import { ControllerList } from "./ControllerList";
import { ProposeFields } from "./ProposeFields";

const KIND_CHOICES = [
  ["mppt", "MPPT, tracks"],
  ["pwm", "PWM, at bank volts"],
  ["boost", "boost, lifts volts"],
] as const;

interface Props {
  picture: StringsPicture | undefined;
  chosen: string | null;
  onChoose: (id: string) => void;
}

/** Which panels stand in series, on which controller, and what a wiring is held against. */
export function StringsBench({ picture, chosen, onChoose }: Props) {
  const { design } = useDesign();
  const units = useUnits();
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
  const box = (entry: string) => `/controllers/${c}/${entry}`;
  return (
    <section aria-label="Strings and controllers" className="bench border-r border-hairline px-5 py-3">
      <Group title="Panels and what they feed">
        {groups.length === 0 && (
          <p className="mt-0 mb-1 text-muted">No panels yet. Put some on the boat at the Array first.</p>
        )}
        {picture?.rungs.map((item) => (
          <button
            key={item.key}
            type="button"
            className={`mb-1 block w-full cursor-pointer rounded-[6px] border bg-transparent px-2 py-1 text-left text-ink ${item.key === rung?.key ? "border-ink bg-field" : "border-transparent"}`}
            aria-pressed={item.key === rung?.key}
            data-string={item.key}
            onClick={() => onChoose(item.key)}
          >
            <span className="flex justify-between gap-2">
              <b className="truncate">{item.name}</b>
              <span className="tabular whitespace-nowrap">
                {shown({ quantity: "power_w", value: item.nameplate_w, signed: false }, units)}
              </span>
            </span>
            <span className={`block text-[13px] ${item.over || item.low ? "text-alarm" : "text-muted"}`}>
              {item.series > 1
                ? `${item.series} in series × ${item.strings}`
                : item.strings === 1
                  ? "one panel"
                  : `${item.strings} side by side`}
              {item.left_over > 0 && `, ${item.left_over} left over`}
              {` · ${item.boxes > 1 ? `${item.boxes} × ` : ""}${item.controller}`}
            </span>
          </button>
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
              <NumberField
                pointer={`/panels/${g}/series`}
                label="In series"
                kind="count"
                step={1}
                hint="Panels one after another: their volts add up, their amps do not"
              />
            )}
            <NumberField
              pointer={`/places/${p}/cable_m`}
              label="Cable to the controller"
              kind="length_m"
              usual={5}
              step={0.5}
              hint="One way"
            />
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
            <TextField pointer={box("name")} label="Name" width={150} />
            <ChoiceField pointer={box("kind")} label="Kind" options={KIND_CHOICES} width={170} />
            <NumberField pointer={box("count")} label="Boxes alike" kind="count" step={1} />
            <NumberField
              pointer={box("most_pv_v")}
              label="Panel volts, at most"
              kind="voltage_v"
              usual={null}
              step={10}
              hint="What its label says it survives; more destroys it"
            />
            <NumberField
              pointer={box("most_pv_a")}
              label="Short-circuit amps"
              kind="current_a"
              usual={null}
              step={5}
              hint="Most its input takes"
            />
            <NumberField
              pointer={box("current_limit_a")}
              label="Puts out, at most"
              kind="current_a"
              usual={null}
              step={5}
              hint="Empty: it never clips"
            />
            <NumberField
              pointer={box("headroom_v")}
              label="Needs over the bank"
              kind="voltage_v"
              step={0.5}
              hint="How far the panels must stand over the bank before it charges"
            />
            <NumberField
              pointer={box("least_bank_v")}
              label="Bank volts, at least"
              kind="voltage_v"
              usual={null}
              step={12}
            />
            <NumberField
              pointer={box("most_bank_v")}
              label="Bank volts, at most"
              kind="voltage_v"
              usual={null}
              step={12}
            />
            <NumberField pointer={box("efficiency")} label="Efficiency" kind="fraction" step={0.5} />
            <NumberField
              pointer={box("light_efficiency")}
              label="At a tenth of its amps"
              kind="fraction"
              usual={null}
              step={0.5}
              hint="Empty: the same at any load"
            />
            <NumberField
              pointer={box("full_efficiency")}
              label="At all its amps"
              kind="fraction"
              usual={null}
              step={0.5}
            />
            <NumberField
              pointer={box("own_power_w")}
              label="Its own draw"
              kind="power_w"
              step={0.5}
              hint="Day and night, each box; it comes off the bank as a load of the house"
            />
            <NumberField
              pointer={box("inputs")}
              label="Inputs"
              kind="count"
              step={1}
              hint="Each with volts of its own: strings of other volts may share a box with enough of them"
            />
            {(design.banks ?? []).length > 1 && (
              <ChoiceField
                pointer={box("bank_id")}
                label="Charges"
                options={(design.banks ?? []).map((bank) => [bank.id, bank.name ?? bank.id] as const)}
              />
            )}
            <NumberField
              pointer={box("cable_m")}
              label="Cable to the bank"
              kind="length_m"
              usual={2}
              step={0.5}
            />
          </Fold>
        </>
      )}
      <Fold
        title="Limits to hold"
        summary={`${design.wiring?.coldest_c ?? -10} °C at the coldest`}
        {...fold("limits")}
      >
        <NumberField
          pointer="/wiring/coldest_c"
          label="Coldest morning"
          kind="temperature_c"
          step={1}
          hint="Of the years the boat will see; cold panels stand at their highest volts"
        />
        <NumberField
          pointer="/wiring/hottest_cell_c"
          label="Hottest cell"
          kind="temperature_c"
          step={1}
          hint="70 with air behind; a panel flat on a deck can reach 85"
        />
        <NumberField pointer="/wiring/drop_frac" label="Cables may lose" kind="fraction" step={0.5} />
        <NumberField
          pointer="/wiring/bank_cable_m"
          label="Bank to its bus"
          kind="length_m"
          usual={1}
          step={0.5}
        />
        <NumberField
          pointer="/wiring/motor_cable_m"
          label="Bus to the motor"
          kind="length_m"
          usual={3}
          step={0.5}
        />
        <CheckField pointer="/wiring/engine_space" label="Through an engine space" />
        <CheckField pointer="/wiring/bundled" label="Panel cables in a bundle" />
        <NumberField
          pointer="/wiring/fuse_at_m"
          label="First fuse, from the bank"
          kind="length_m"
          usual={null}
          step={0.05}
          hint="Along the cable, from the terminal; what lies before it has no protection"
        />
      </Fold>
    </section>
  );
}
