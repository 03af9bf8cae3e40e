import type { LogDay } from "../../api/client";
import { useStudy } from "../../asking/live";
import { useLogbook } from "../../kit/logbook";
import { useSay } from "../../kit/preferences";
import { Heading } from "../../kit/ui/Page";
import { DayLogChart } from "./DayLogChart";
import { MeaningList } from "./MeaningList";

/** The day as it went: what the model says of its sky, and what was read. */
export function DayView({ day }: { day: LogDay }) {
  const meaning = useStudy("log/meaning");
  const { noteOuting } = useLogbook();
  const say = useSay();
  return (
    <>
      <Heading
        title="The day as it went"
        in={`${day.date}: ${say("energy_wh", day.harvest_wh)} from the sun, ${say("energy_wh", day.used_wh)} used; rings: read`}
      />
      <div className="min-h-[300px] flex-1">
        <DayLogChart day={day} />
      </div>
      <MeaningList
        meanings={meaning.data ?? []}
        busy={meaning.stale}
        onClock={(clock_ahead_s) => noteOuting({ ...day.outing, clock_ahead_s })}
      />
    </>
  );
}
