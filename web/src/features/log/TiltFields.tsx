import { useState } from "react";
import type { LogNow, LogPicture } from "../../api/client";
import { useLogbook } from "../../kit/logbook";
import { useUnits } from "../../kit/preferences";
import { newId } from "../../kit/records";
import { INPUT, Problem } from "../../kit/ui/fields";
import { Told } from "../../kit/ui/Told";
import { parsed } from "../../kit/units";
import { newReading } from "./moment";

/** Move a wing, note its tilt and the total: the sun's own change is taken out. */
export function TiltFields(props: {
  tilt: LogNow["tilt"];
  day: LogPicture["day"];
  onBegun: (outing: string) => void;
}) {
  const { tilt, day, onBegun } = props;
  const { noteReadings, outingAt } = useLogbook();
  const units = useUnits();
  const [angle, setAngle] = useState("");
  const [watts, setWatts] = useState("");
  const [problem, setProblem] = useState("");
  function note() {
    const [a, w] = [parsed(angle, "angle_deg", units), parsed(watts, "power_w", units)];
    if ("problem" in a || "problem" in w || a.value < -90 || a.value > 90)
      return setProblem("A tilt from -90 to 90° and the total in watts.");
    setProblem("");
    setWatts("");
    const at = new Date().toISOString();
    const outing = outingAt(day?.outing ?? null, at);
    if (outing !== day?.outing.id) onBegun(outing);
    noteReadings([
      {
        ...newReading(newId(), at, outing),
        tilt_deg: a.value,
        pv_w: w.value,
      },
    ]);
  }
  return (
    <details className="mt-3 text-[14px]" open={tilt !== null || undefined}>
      <summary className="link cursor-pointer">tilt by the total</summary>
      <form
        className="mt-1 flex flex-wrap items-end gap-2"
        aria-label="Tilt by the total"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          note();
        }}
      >
        <label className="flex flex-col">
          tilt, °
          <input
            className={`${INPUT} w-[80px]`}
            value={angle}
            onChange={(event) => setAngle(event.target.value)}
          />
        </label>
        <label className="flex flex-col">
          total, W
          <input
            className={`${INPUT} w-[90px]`}
            value={watts}
            onChange={(event) => setWatts(event.target.value)}
          />
        </label>
        <button type="submit" className="btn">
          note
        </button>
      </form>
      {problem && <Problem id="tilt-total" text={problem} />}
      <p className="m-0 mt-1 text-[16px] font-bold" data-tilt>
        {tilt ? <Told sentence={tilt.words} /> : "Eight readings at three tilts or more tell the best."}
      </p>
    </details>
  );
}
