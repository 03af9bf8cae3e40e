import { lazy, Suspense } from "react";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { Heading, Picture } from "../../kit/ui/Page";
import { Views } from "../../kit/ui/Views";
import { CrossingChart } from "./CrossingChart";
import { HullBench } from "./HullBench";
import { PowerStrip } from "./PowerStrip";

// The first view comes with the page, the others once they are looked at.
const HelmCardView = lazy(async () => ({ default: (await import("./HelmCardView")).HelmCardView }));
const MatchView = lazy(async () => ({ default: (await import("./MatchView")).MatchView }));
const RangeView = lazy(async () => ({ default: (await import("./RangeView")).RangeView }));

const VIEWS = [
  ["crossing", "Crossing"],
  ["range", "Range"],
  ["match", "Match"],
  ["helm", "Helm card"],
] as const;

const TITLES = {
  crossing: ["Where sun meets water", "battery watts at each speed, against what the sun pays"],
  range: ["How far at each speed", "without a pause, from the start charge to the reserve"],
  match: ["Motor and propeller", "where they meet, and what would suit better"],
  helm: ["Helm card", "to print and tape beside the throttle"],
} as const;

/** Where sun meets water: what the boat needs to move. */
export default function HullStation() {
  const { design, apply } = useDesign();
  const { data: picture, stale, error, retry } = useStudy("hull/picture");
  const plan = (speed: number) =>
    apply((current) => withValue(current, "/plan/speed_mps", Number(speed.toFixed(4))), "/plan/speed_mps");
  return (
    <>
      <HullBench picture={picture} />
      <Picture>
        <Views label="Views of the hull" views={VIEWS}>
          {(view) => (
            <>
              <Heading title={TITLES[view][0]} in={TITLES[view][1]} />
              {view === "crossing" && (
                <>
                  <div className="min-h-0 flex-1">
                    {picture ? (
                      <CrossingChart
                        picture={picture}
                        planSpeed={design.plan.speed_mps}
                        stale={stale}
                        onPlanSpeed={plan}
                      />
                    ) : (
                      <Waiting error={error} retry={retry} what="The crossing chart" />
                    )}
                  </div>
                  {picture && <PowerStrip picture={picture} />}
                </>
              )}
              <Suspense fallback={null}>
                {view === "range" && <RangeView onPlanSpeed={plan} />}
                {view === "match" && <MatchView />}
                {view === "helm" && <HelmCardView />}
              </Suspense>
            </>
          )}
        </Views>
      </Picture>
    </>
  );
}
