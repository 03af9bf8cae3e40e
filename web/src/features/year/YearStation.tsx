import { useDesign } from "../../kit/document";
import { Views } from "../../kit/ui/Views";
import { AheadView } from "./AheadView";
import { CompareView } from "./CompareView";
import { SeasonView } from "./SeasonView";
import { UpgradesView } from "./UpgradesView";
import { YearBench } from "./YearBench";

const VIEWS = [
  ["year", "The year"],
  ["ahead", "Days ahead"],
  ["upgrades", "Upgrades"],
  ["compare", "Compare"],
] as const;

const TITLES = {
  year: ["Through the year", "month by month, on the days the place has"],
  ahead: ["The days ahead", "out, at rest, and in the fog"],
  upgrades: ["What to do next", "the steps that win most, within money and weight"],
  compare: ["Side by side", "variants of this boat, answer by answer"],
} as const;

/** Beyond the one day: the season, the days ahead, and what a change is worth in them. */
export default function YearStation() {
  const { variant } = useDesign();
  return (
    <>
      <YearBench />
      <main className="picture flex min-h-0 min-w-0 flex-col px-4 pt-2 pb-1">
        <Views label="Views of the year" views={VIEWS}>
          {(view) => (
            <>
              <h1 className="m-0 mb-1 text-[16px] font-bold">
                {TITLES[view][0]}{" "}
                <span className="ml-3 text-[14px] font-normal text-muted">{TITLES[view][1]}</span>
              </h1>
              {view === "year" && <SeasonView />}
              {view === "ahead" && <AheadView />}
              {view === "upgrades" && <UpgradesView />}
              {view === "compare" && <CompareView key={variant.id} />}
            </>
          )}
        </Views>
      </main>
    </>
  );
}
