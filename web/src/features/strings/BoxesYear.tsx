import type { BoxYear } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Upright } from "../../kit/chart/lines";
import { Waiting } from "../../kit/chart/Waiting";
import { useSay } from "../../kit/preferences";
import { Head, View } from "../../kit/ui/View";
import { MONTHS } from "../../kit/units";

/** What every controller brings in a year, how large its panels are against it, and what it clips when. */
export function BoxesYear() {
  const say = useSay();
  const { data, stale, error, retry } = useStudy("strings/year");
  if (!data) return <Waiting error={error} retry={retry} what="The year" />;
  if (data.boxes.length === 0)
    return <p className="m-auto text-muted">No panels feed a controller. Put some on at the Array.</p>;
  return (
    <View label="The year of each controller" stale={stale} data-boxes-year>
      <table className="plain-table">
        <Head of={["controller", "panels against what it passes", "a year", "clipped", "its own draw"]} />
        <tbody>
          {data.boxes.map((box) => (
            <tr key={box.controller_id} data-box-year={box.controller_id}>
              <td>
                {box.boxes > 1 && `${box.boxes} × `}
                {box.name}
              </td>
              <td>
                <Against box={box} />
                <span className="block text-[12.5px] text-muted">
                  {say("power_w", box.array_w)}
                  {box.passes_w != null && ` on ${say("power_w", box.passes_w)}`}
                </span>
              </td>
              <td>
                <b>{say("energy_wh", box.year_wh)}</b>
              </td>
              <td>
                {box.worst_month == null ? (
                  "nothing"
                ) : (
                  <>
                    {say("energy_wh", box.clipped_wh)}, {say("fraction", box.clipped_frac)}
                    <span className="block text-[12.5px] text-muted">
                      most in {MONTHS[box.worst_month - 1]}
                    </span>
                  </>
                )}
              </td>
              <td>{box.own_wh > 0 ? say("energy_wh", box.own_wh) : "not given"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 mb-1 text-[13px] text-muted">
        Steps of ten minutes through the year under a {data.sky} sky every day, as the places stand in this
        state. Clipped is what the panels could have made over the controller's limit: a few per cent are no
        fault.
      </p>
    </View>
  );
}

/** The panels' watts as a bar against the mark of what the controller passes. */
function Against({ box }: { box: BoxYear }) {
  if (box.passes_w == null) return <span className="text-muted">no limit given</span>;
  const whole = Math.max(box.array_w, box.passes_w) * 1.05;
  const [width, mark] = [(100 * box.array_w) / whole, (100 * box.passes_w) / whole];
  return (
    <svg width="150" height="16" viewBox="0 0 100 16" preserveAspectRatio="none" aria-hidden="true">
      <rect x="0" y="4" width={Math.min(width, mark)} height="8" fill="var(--sun)" />
      {width > mark && (
        <rect x={mark} y="4" width={width - mark} height="8" fill="var(--field)" stroke="var(--sun)" />
      )}
      <Upright x={mark} y1="0" y2="16" stroke="var(--ink)" strokeWidth="1.4" />
    </svg>
  );
}
