import type { StringsPicture } from "../../api/client";
import { useSay } from "../../kit/preferences";
import { Head, View } from "../../kit/ui/View";

type Wire = StringsPicture["banks"][number]["wire"];

const REASONS: Record<string, string> = { drop: "by its drop", ampacity: "by ampacity" };

const fused = (wire: Wire, where = "") =>
  wire.fuse_a ? `fuse ${wire.fuse_a} A${where}` : "over the largest fuse";

/** Every cable with its size, what sets it, its fuse or breaker, and what it loses. */
export function CableList({ picture }: { picture: StringsPicture }) {
  const say = useSay();
  const rows: { key: string; name: string; wire: Wire; guard: string }[] = [];
  for (const line of picture.lines) {
    rows.push({
      key: `${line.key}/pv`,
      name: `${line.panels} to ${line.controller}`,
      wire: line.cable,
      guard: line.breaker_a ? `breaker ${line.breaker_a} A` : "–",
    });
    if (line.out)
      rows.push({
        key: `${line.key}/out`,
        name: `${line.boxes > 1 ? "each " : ""}${line.controller} to the bank`,
        wire: line.out,
        guard: line.out.fuse_a ? `fuse ${line.out.fuse_a} A` : "–",
      });
  }
  for (const bank of picture.banks)
    rows.push({
      key: bank.id,
      name: `${bank.name} to its bus`,
      wire: bank.wire,
      guard: `${fused(bank.wire, " at the bank")}, to break ${Math.ceil(bank.short_a / 100) / 10} kA`,
    });
  for (const user of picture.consumers)
    if (user.cable)
      rows.push({ key: user.name, name: `Bus to ${user.name}`, wire: user.cable, guard: fused(user.cable) });
  for (const joint of picture.converters) {
    rows.push({
      key: `${joint.id}/in`,
      name: "Bus to the converter",
      wire: joint.in_wire,
      guard: fused(joint.in_wire),
    });
    rows.push({
      key: `${joint.id}/out`,
      name: "Converter to the other bus",
      wire: joint.out_wire,
      guard: fused(joint.out_wire),
    });
  }
  for (const charger of picture.chargers)
    rows.push({
      key: charger.id,
      name: `${charger.name} to the bank`,
      wire: charger.wire,
      guard: fused(charger.wire),
    });
  return (
    <View label="Cables" data-cables>
      <table className="plain-table">
        <Head of={["run", "carries", "one way", "copper", "loses at full load", "protected by"]} />
        <tbody>
          {rows.map(({ key, name, wire, guard }) => (
            <tr key={key}>
              <td>{name}</td>
              <td>{say("current_a", wire.current_a)}</td>
              <td>
                {say("length_m", wire.length_m)}
                {!wire.length_given && <span className="block text-[12.5px] text-muted">usual</span>}
              </td>
              <td>
                <b className="whitespace-nowrap">{wire.size_mm2} mm²</b>
                <span className="block text-[12.5px] text-muted">
                  AWG {wire.gauge}, {REASONS[wire.reason] ?? wire.reason}
                </span>
              </td>
              <td>
                {say("fraction", wire.drop_frac)}
                <span className="block text-[12.5px] text-muted">{say("power_w", wire.loss_w)}</span>
              </td>
              <td>{guard}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 mb-1 text-[13px] text-muted">
        {picture.banks.length > 0 &&
          "A dead short draws what the bank's fuse must be able to break: kA beside it, by the bank's own resistance. "}
        Ampacity is typical of boat cable with insulation for 105 °C, in air; check the maker's table and the
        standard in force where you are.
      </p>
    </View>
  );
}
