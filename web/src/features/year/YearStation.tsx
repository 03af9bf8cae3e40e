import { useDesign } from "../../kit/document";
import { Heading, Picture } from "../../kit/ui/Page";
import { Views } from "../../kit/ui/Views";
import { AheadView } from "./AheadView";
import { CompareView } from "./CompareView";
import { SeasonView } from "./SeasonView";
import { UpgradesView } from "./UpgradesView";
import { WorthView } from "./WorthView";
import { YearBench } from "./YearBench";

const VIEWS = [
  ["year", "The year"],
  ["worth", "Worth it?"],
  ["ahead", "Days ahead"],
  ["upgrades", "Upgrades"],
  ["compare", "Compare"],
] as const;

const TITLES = {
  year: ["Through the year", "month by month, on the days the place has"],
  worth: ["Is it worth it?", "one sum by three schools, factor by factor"],
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
      <Picture>
        <Views label="Views of the year" views={VIEWS}>
          {(view) => (
            <>
              <Heading title={TITLES[view][0]} in={TITLES[view][1]} />
              {view === "year" && <SeasonView />}
              {view === "worth" && <WorthView />}
              {view === "ahead" && <AheadView />}
              {view === "upgrades" && <UpgradesView />}
              {view === "compare" && <CompareView key={variant.id} />}
            </>
          )}
        </Views>
      </Picture>
    </>
  );
}
