import type { LogDay, LogNow } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useSay } from "../../kit/preferences";
import { Heading } from "../../kit/ui/Page";
import { Told } from "../../kit/ui/Told";
import { clockText } from "../../kit/units";
import { NowBars } from "./NowBars";
import { Pauses } from "./Pauses";
import { TiltFields } from "./TiltFields";
import { NOW_MS, useDevices } from "./useDevices";

/** At arm's length: what comes in, what goes out, what is left, and what to do. */
export function NowView(props: {
  day: LogDay | null;
  onNote: () => void;
  onBegun: (outing: string) => void;
}) {
  const { day, onNote, onBegun } = props;
  const heard = useDevices(NOW_MS)?.flatMap((device) => device.heard) ?? [];
  const { data: now, error, retry } = useStudy("log/now", { heard });
  const say = useSay();
  if (!now) return <Waiting error={error} retry={retry} what="Now" />;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Now">
      <Heading title="Now" in={now.at ? <When now={now} day={day} /> : "no reading yet"} />
      <NowBars now={now} />
      <p className="m-0 my-3 max-w-[40ch] text-[21px] leading-snug font-bold" data-sentence>
        <Told sentence={now.words} />
      </p>
      {now.alarms.map((alarm, i) => (
        <p key={i} className="m-0 mb-2 max-w-[60ch] font-semibold text-alarm" role="alert">
          ▲ <Told sentence={alarm} />
        </p>
      ))}
      <dl className="m-0 mb-3 flex flex-wrap gap-x-10 gap-y-2">
        {now.to_reserve_h != null && <Hours words="To the reserve, as it goes" hours={now.to_reserve_h} />}
        {now.to_full_h != null && <Hours words="To full, as it goes" hours={now.to_full_h} />}
        {now.home_m != null && (
          <div>
            <dt className="text-[13.5px] text-muted">Left of the plan</dt>
            <dd className="m-0 text-[26px] font-bold">{say("distance_m", now.home_m)}</dd>
          </div>
        )}
        {now.home_h != null && now.home_mps != null && (
          <Hours words={`Home at ${say("speed_mps", now.home_mps)}`} hours={now.home_h} />
        )}
      </dl>
      {now.missing.length > 0 && (
        <p className="m-0 mb-2 text-[13px] text-muted">
          Not read in the last half hour: {now.missing.join(", ")}; the model stands in for it.
        </p>
      )}
      <TiltFields tilt={now.tilt ?? null} day={day} onBegun={onBegun} />
      <button type="button" className="btn mt-3 min-h-[52px] px-7 text-[17px]" data-main onClick={onNote}>
        note a reading
      </button>
      {day && day.outing.ended_at == null && <Pauses outing={day.outing} large />}
    </div>
  );
}

function When({ now, day }: { now: LogNow; day: LogDay | null }) {
  const last = day?.readings[0];
  if (now.heard) return <>as your devices say it, second by second</>;
  return (
    <>
      <b className="text-ink">{last ? clockText(last.minute) : ""}</b> your last reading
      {day && `, ${day.date}`}
      {now.old_min != null &&
        now.old_min > 1 &&
        `; the oldest that counts is ${Math.round(now.old_min)} min older`}
    </>
  );
}

function Hours({ words, hours }: { words: string; hours: number }) {
  const say = useSay();
  return (
    <div>
      <dt className="text-[13.5px] text-muted">{words}</dt>
      <dd className="m-0 text-[26px] font-bold">{hours >= 99 ? "over 4 days" : say("duration_h", hours)}</dd>
    </div>
  );
}
