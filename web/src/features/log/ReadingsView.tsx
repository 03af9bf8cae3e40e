import type { LogDay, LogReading } from "../../api/client";
import { useLogbook } from "../../kit/logbook";
import { useSay } from "../../kit/preferences";
import { useToast } from "../../kit/Toast";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Heading } from "../../kit/ui/Page";
import { Head, View } from "../../kit/ui/View";
import { clockText, counted } from "../../kit/units";

const WORDS: Record<string, string> = { hand: "by hand" };

/** Every reading of the outing, newest first; one may be left out, and counts no more. */
export function ReadingsView({ day }: { day: LogDay }) {
  const { noteReadings, dropReading } = useLogbook();
  const toast = useToast();
  const say = useSay();
  const words = (reading: LogReading) =>
    [
      reading.pv_w != null && `${say("power_w", reading.pv_w)} in`,
      reading.pv_v != null && `panels ${say("voltage_v", reading.pv_v)}`,
      reading.pv_a != null && say("current_a", reading.pv_a),
      reading.motor_w != null && `motor ${say("power_w", reading.motor_w)}`,
      reading.house_w != null && `house ${say("power_w", reading.house_w)}`,
      reading.charge_frac != null && `${say("fraction", reading.charge_frac)} in the bank`,
      reading.bank_v != null && say("voltage_v", reading.bank_v),
      reading.bank_a != null && say("current_a", reading.bank_a),
      reading.speed_mps != null && say("speed_mps", reading.speed_mps),
      reading.ground_mps != null && `${say("speed_mps", reading.ground_mps)} over the ground`,
      reading.wind_mps != null && `wind ${say("speed_mps", reading.wind_mps)}`,
      reading.tilt_deg != null && `tilted ${say("angle_deg", reading.tilt_deg)}`,
      reading.latitude_deg != null && "with its place",
      reading.waves_m != null && `waves ${say("length_m", reading.waves_m)}`,
      reading.sky != null && `sky ${reading.sky}`,
      reading.note,
    ]
      .filter(Boolean)
      .join(" · ");
  return (
    <>
      <Heading
        title="Readings"
        in={`${day.date}, ${counted(day.readings.length + day.more_readings, "reading")}`}
      />
      <View label="Readings">
        <table className="bench-table word-table w-full">
          <Head of={["time", "of", "what was read", "by"]} quiet="take back" />
          <tbody>
            {day.readings.map(({ reading, minute, of_name, source }) => (
              <tr key={reading.id} data-reading={reading.id}>
                <td className="tabular">{clockText(minute)}</td>
                <td>{of_name || "boat"}</td>
                <td>{words(reading)}</td>
                <td className="whitespace-nowrap">{WORDS[source] ?? source}</td>
                <td className="whitespace-nowrap text-right">
                  <LinkButton onClick={() => noteReadings([{ ...reading, left_out: true }])}>
                    leave out
                  </LinkButton>{" "}
                  <LinkButton
                    onClick={() => {
                      dropReading(reading.id);
                      toast({
                        text: `The reading of ${clockText(minute)} is removed.`,
                        action: { label: "put it back", run: () => noteReadings([reading]) },
                      });
                    }}
                    aria-label={`Remove ${clockText(minute)}`}
                  >
                    remove
                  </LinkButton>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {day.more_readings > 0 && (
          <p className="text-muted">
            {counted(day.more_readings, "older reading")} of this outing stand in the file and count in the
            picture.
          </p>
        )}
      </View>
    </>
  );
}
