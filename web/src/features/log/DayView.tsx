import { type LogDay, refitted } from "../../api/client";
import { useStudy } from "../../asking/live";
import { useDesign } from "../../kit/document";
import { useLogbook } from "../../kit/logbook";
import { useSay, useUnits } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Heading } from "../../kit/ui/Page";
import { told } from "../../kit/units";
import { DayLogChart } from "./DayLogChart";
import { MeaningList } from "./MeaningList";

/** The day as it went: what the model says of its sky, and what was read. */
export function DayView({ day }: { day: LogDay }) {
  const meaning = useStudy("log/meaning");
  const { changeOuting } = useLogbook();
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
        onClock={(clock_ahead_s) => changeOuting(day.outing, { clock_ahead_s })}
      />
      {day.run && <RunLine outing={day.outing.id} run={day.run} />}
    </>
  );
}

/** What this outing says of watts at speed; one button puts it among the Hull's runs. */
function RunLine({ outing, run }: { outing: string; run: NonNullable<LogDay["run"]> }) {
  const { apply } = useDesign();
  const units = useUnits();
  const { refit, reason } = run;
  return (
    <p className="m-0 mt-1 text-[13px]" data-run={outing}>
      {told(run.words, units)}
      {reason ? (
        <span className="text-muted">: {told(reason, units)}</span>
      ) : (
        <>
          {" "}
          {refit && (
            <LinkButton onClick={() => apply((boat) => refitted(boat, refit), `log-run-${outing}`)}>
              put it among the Hull's runs
            </LinkButton>
          )}
        </>
      )}
    </p>
  );
}
