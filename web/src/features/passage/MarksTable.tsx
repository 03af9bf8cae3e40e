import type { PassagePicture } from "../../api/client";
import { useSay } from "../../kit/preferences";
import { Head } from "../../kit/ui/View";
import { hourText } from "../../kit/units";

/** The ribbon's numbers, mark by mark. */
export function MarksTable({ picture }: { picture: PassagePicture }) {
  const say = useSay();
  const speed = (value: number | null | undefined) => (value == null ? "–" : say("speed_mps", value));
  const waves = picture.legs.some((leg) => leg.waves_m);
  const share = (value: number | null | undefined) => (value == null ? "–" : say("fraction", value));
  return (
    <table className="plain-table" data-marks>
      <Head
        of={[
          "mark, course",
          "way",
          "through water",
          "over ground",
          "stream",
          waves ? "head wind, waves take" : "head wind",
          "throttle",
          "there, on",
          "bank",
          "poor day",
        ]}
      />
      <tbody>
        {picture.marks.map((mark, k) => {
          const leg = k > 0 ? picture.legs[k - 1] : undefined;
          return (
            <tr key={`${mark.name} ${mark.gone_m}`}>
              <td>
                {mark.name}
                {leg && (
                  <span className="whitespace-nowrap text-muted"> {say("angle_deg", leg.course_deg)}</span>
                )}
              </td>
              <td>{say("distance_m", mark.gone_m)}</td>
              <td>{leg ? speed(leg.speed_mps) : ""}</td>
              <td>{leg ? speed(leg.ground_mps) : ""}</td>
              <td>{leg?.stream_mps == null ? "" : say("speed_mps", leg.stream_mps, true)}</td>
              <td>
                {leg?.head_wind_mps == null ? "" : say("speed_mps", leg.head_wind_mps)}
                {leg?.waves_m ? (
                  <span className="block text-muted">{say("power_w", leg.waves_w ?? 0, true)}</span>
                ) : null}
              </td>
              <td>{leg?.power_w == null ? "" : say("power_w", leg.power_w)}</td>
              <td>
                <b>{mark.arrives_h == null ? "not" : hourText(mark.arrives_h)}</b>
                {mark.leaves_h != null && mark.leaves_h !== mark.arrives_h && (
                  <span className="block text-muted">{hourText(mark.leaves_h)}</span>
                )}
              </td>
              <td>{share(mark.soc_frac)}</td>
              <td>{share(mark.poor_frac)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
