import { useCallback, useEffect } from "react";
import type { DayPicture } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { HOUR_EVENT } from "../../kit/hour";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";
import { useSearch } from "../../kit/search";
import { Heading, Picture } from "../../kit/ui/Page";
import { Views } from "../../kit/ui/Views";
import { clockText } from "../../kit/units";
import { AccountsView } from "./AccountsView";
import { DayBench } from "./DayBench";
import { DayChart } from "./DayChart";
import type { SpellEdge } from "./DayHandles";
import { clockAt, frameOf, indexOf, minutesOf } from "./dayAxis";
import { PaceView } from "./PaceView";

const VIEWS = [
  ["day", "One day"],
  ["accounts", "Accounts"],
  ["pace", "Pace"],
] as const;

/** Sky above, water below: the balance of one day. */
export default function DayStation() {
  const { design, apply, entries } = useDesign();
  const say = useSay();
  const { data: picture, stale, error, retry } = useStudy("day/picture");
  const [cursor, setCursor] = useCursor(picture);
  const sky = entries.words("/plan/sky")[design.plan.sky ?? "clear"];
  const speed = picture?.plan_speed_mps ?? design.plan.speed_mps;

  const setEdge = (picture: DayPicture) => (edge: SpellEdge, clock: number) => {
    apply((current) => {
      const spells = (current.plan.spells ?? picture.spells).map((spell, index) =>
        index === edge.spell ? { ...spell, [edge.edge]: `${clockText(clock)}:00` } : spell,
      );
      const changed = spells[edge.spell];
      if (!changed || changed.starts_at === changed.ends_at) return current;
      return withValue(current, "/plan/spells", spells);
    }, `spell-${edge.spell}-${edge.edge}`);
  };
  const move = (picture: DayPicture) => (index: number, by: number) => {
    apply((current) => {
      const spells = (current.plan.spells ?? picture.spells).map((spell, i) =>
        i === index
          ? {
              starts_at: `${clockText(minutesOf(spell.starts_at) + by)}:00`,
              ends_at: `${clockText(minutesOf(spell.ends_at) + by)}:00`,
            }
          : spell,
      );
      return withValue(current, "/plan/spells", spells);
    }, `spell-${index}`);
  };

  return (
    <>
      <DayBench picture={picture} />
      <Picture>
        <h1 className="sr-only">Day</h1>
        <Views label="What to look at" views={VIEWS}>
          {(view) =>
            view === "pace" ? (
              <PaceView ticks={picture?.ticks ?? []} />
            ) : view === "accounts" && picture ? (
              <AccountsView picture={picture} />
            ) : (
              <>
                <Heading
                  title="Sky above, water below"
                  in={`one ${sky} day at ${say("speed_mps", speed)}, in watts`}
                />
                <div className="min-h-0 flex-1">
                  {picture ? (
                    <DayChart
                      picture={picture}
                      spells={design.plan.spells ?? picture.spells}
                      stale={stale}
                      cursor={cursor}
                      onCursor={setCursor}
                      onEdge={setEdge(picture)}
                      onMove={move(picture)}
                    />
                  ) : (
                    <Waiting error={error} retry={retry} what="The day" />
                  )}
                </div>
              </>
            )
          }
        </Views>
      </Picture>
    </>
  );
}

/** The moment the day is read at: in the address once it is moved, solar noon before. */
function useCursor(picture: DayPicture | undefined) {
  const [search, setSearch] = useSearch();
  const at = search.get("at");
  const cursor = picture ? (at ? indexOf(picture, minutesOf(at)) : picture.noon_index) : 0;
  const set = useCallback(
    (index: number) => {
      if (!picture) return;
      setSearch((search) => search.set("at", clockText(clockAt(picture, index))), true);
    },
    [picture, setSearch],
  );
  useEffect(() => {
    if (!picture) return;
    const { steps, minutes } = frameOf(picture);
    const hour = (event: Event) =>
      set(
        Math.min(Math.max(cursor + ((event as CustomEvent<number>).detail * 60) / minutes, 0), steps - 0.1),
      );
    window.addEventListener(HOUR_EVENT, hour);
    return () => window.removeEventListener(HOUR_EVENT, hour);
  }, [cursor, set, picture]);
  return [cursor, set] as const;
}
