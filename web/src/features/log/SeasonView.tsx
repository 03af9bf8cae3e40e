import { Link } from "react-router";
import { type LogSeason, refitted } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Heading } from "../../kit/ui/Page";
import { ToldList } from "../../kit/ui/ToldList";
import { Head, View } from "../../kit/ui/View";
import { counted, told } from "../../kit/units";
import { FactorLine } from "./FactorLine";
import { MonthsChart } from "./MonthsChart";

/** What the season came to, by month, and what it taught. */
export function SeasonView({ onChoose }: { onChoose: (id: string) => void }) {
  const { data: season, stale, error, retry } = useStudy("log/season");
  if (season === undefined) return <Waiting error={error} retry={retry} what="The season" />;
  if (season === null)
    return (
      <div className="m-auto max-w-[46ch] text-center">
        <h1 className="m-0 mb-2 text-[18px]">No outings yet</h1>
        <p>After a few, the season says what the sun carried, what the hull takes, and what to mend first.</p>
      </div>
    );
  return (
    <>
      <Heading
        title={`The season ${season.title}`}
        in={`${counted(season.whole.days, "day")} out: what came from above, what it gave below`}
      />
      <View label="The season" stale={stale}>
        <MonthsChart season={season} />
        <div className="mt-2 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-6 max-[1050px]:grid-cols-1">
          <Learned season={season} />
          <section aria-label="What it came to">
            <h2 className="m-0 mb-1 text-[14px] font-bold">What it came to</h2>
            <ToldList name="season" lines={season.told} />
            {season.best && (
              <p className="m-0 text-[13.5px]">
                Farthest: {season.best}. Shortest: {season.worst}.
              </p>
            )}
            {season.broke.length > 0 && (
              <p className="m-0 text-[13.5px]">Broke: {season.broke.join("; ")}.</p>
            )}
            <NextYear season={season} />
            <h2 className="m-0 mt-3 mb-1 text-[14px] font-bold">Laying up</h2>
            <ToldList name="laying-up" lines={season.laying_up} />
          </section>
        </div>
        <Scores season={season} onChoose={onChoose} />
      </View>
    </>
  );
}

/** What to buy next, with her own numbers: those that are in the design. */
function NextYear({ season }: { season: LogSeason }) {
  const { variant } = useDesign();
  const open = season.learned.filter((one) => one.refit != null).map((one) => one.label.toLowerCase());
  return (
    <>
      <h2 className="m-0 mt-3 mb-1 text-[14px] font-bold">Next year</h2>
      <p className="m-0 text-[13.5px]">
        <Link className="link" to={{ pathname: `/year/${variant.id}`, search: "?view=upgrades" }}>
          what to buy next
        </Link>
        {open.length > 0
          ? `, by the design as it stands: ${open.join(", ")} of this season are not in it yet.`
          : ", with the numbers of this season."}
      </p>
    </>
  );
}

/** What she is, against what was designed; one button puts it into the design. */
function Learned({ season }: { season: LogSeason }) {
  const { apply } = useDesign();
  const units = useUnits();
  return (
    <section aria-label="What she is, against what was designed">
      <h2 className="m-0 mb-1 text-[14px] font-bold">What she is, against what was designed</h2>
      {season.learned.map((one) => (
        <div key={one.key} className="mb-2" data-learned={one.key}>
          <FactorLine one={one} />
          <p className="m-0 text-[13px] text-muted">{told(one.words, units)}</p>
          {one.refit ? (
            <LinkButton
              onClick={() => {
                const refit = one.refit;
                if (refit) apply((boat) => refitted(boat, refit), `log-${one.key}`);
              }}
            >
              put it into the design
            </LinkButton>
          ) : (
            one.reason && <p className="m-0 text-[13px]">{told(one.reason, units)}</p>
          )}
        </div>
      ))}
      <p className="m-0 text-[12.5px] text-muted">dotted: what was known before; band: 95 of 100 such logs</p>
    </section>
  );
}

/** Predicted against measured, outing by outing. */
function Scores({ season, onChoose }: { season: LogSeason; onChoose: (id: string) => void }) {
  const say = useSay();
  const share = (value: number | null | undefined) => (value == null ? "" : say("fraction", value));
  return (
    <details className="mt-3">
      <summary className="link cursor-pointer">predicted against measured, outing by outing</summary>
      <table className="bench-table word-table mt-1 w-full">
        <Head of={["day", "outing", "harvest of the model's", "watts at speed", "done of planned"]} />
        <tbody>
          {season.scores.map((score) => (
            <tr key={score.outing_id}>
              <td>
                <LinkButton onClick={() => onChoose(score.outing_id)}>{score.date}</LinkButton>
              </td>
              <td>{score.name}</td>
              <td className="tabular">{share(score.harvest)}</td>
              <td className="tabular">{share(score.hull)}</td>
              <td className="tabular">{share(score.planned)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
