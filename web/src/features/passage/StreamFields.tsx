import type { Leg } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import type { useSay } from "../../kit/preferences";
import { Begin, Field, Fields } from "../../kit/ui/Field";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Head } from "../../kit/ui/View";

const HOURS = [-6, -5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5, 6];

/** A leg's stream in a few words. */
export function streamSummary(leg: Leg, say: ReturnType<typeof useSay>): string {
  if (!leg.stream) return "no stream";
  if (leg.stream.kind === "table") return "stream by table";
  return `stream ${say("speed_mps", leg.stream.rate_mps)}${leg.stream.kind === "turning" ? ", turns" : ""}`;
}

/** What the water does along a leg. */
export function StreamFields({ at, leg }: { at: string; leg: Leg }) {
  const { design, apply } = useDesign();
  const stream = leg.stream;
  const tide = design.passage?.tide != null;
  if (!stream) return <Begin at={`${at}/stream`} words="a stream along it" />;
  const table = stream.kind === "table";
  return (
    <>
      <Field
        at={`${at}/stream/kind`}
        width={170}
        write={(current, kind) => {
          const tidal = kind !== "steady";
          const begun =
            tidal && !current.passage?.tide
              ? withValue(current, "/passage/tide", { high_water: "12:00:00", springs_m: 4, neaps_m: 2 })
              : current;
          const lines =
            kind === "table" && (stream.hours ?? []).length < 2
              ? HOURS.map((hour) => ({
                  after_high_water_h: hour,
                  set_deg: stream.set_deg,
                  springs_mps: 0,
                  neaps_mps: 0,
                }))
              : stream.hours;
          return withValue(begun, `${at}/stream`, { ...stream, kind, hours: lines });
        }}
      />
      {!table && <Fields at={`${at}/stream`} of="set_deg rate_mps" />}
      {stream.kind === "turning" && <Fields at={`${at}/stream`} of="strongest_h mean_mps" />}
      {table && (
        <table className="bench-table mb-1">
          <Head of={["hour", "sets to", "springs", "neaps"]} />
          <tbody>
            {(stream.hours ?? []).map((line, k) => (
              <tr key={line.after_high_water_h}>
                <td>
                  {line.after_high_water_h > 0 ? "+" : ""}
                  {line.after_high_water_h}
                </td>
                {["set_deg", "springs_mps", "neaps_mps"].map((name) => (
                  <td key={name}>
                    <Field at={`${at}/stream/hours/${k}/${name}`} bare width={56} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!tide && stream.kind !== "steady" && <Begin at="/passage/tide" words="give a high water" />}
      <LinkButton
        className="block"
        onClick={() => apply((current) => withValue(current, `${at}/stream`, null), `${at}/stream`)}
      >
        no stream here
      </LinkButton>
    </>
  );
}
