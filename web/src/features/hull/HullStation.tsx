import { useDesign } from "../../app/design";
import { Findings } from "../../app/Findings";
import { useHullPicture } from "../../app/live";
import { Waiting } from "../../shared/chart/Waiting";
import { withValue } from "../../shared/pointer";
import { FieldWarnings } from "../../shared/ui/fields";
import { CrossingChart } from "./CrossingChart";
import { HullBench } from "./HullBench";

/** Where sun meets water: what the boat needs to move. */
export default function HullStation() {
  const { design, apply } = useDesign();
  const { data: picture, stale, error, retry } = useHullPicture(design);
  return (
    <FieldWarnings.Provider value={picture?.findings ?? []}>
      <HullBench />
      <main className="picture flex min-h-0 min-w-0 flex-col px-4 pt-3 pb-1">
        <h1 className="m-0 mb-1 text-[16px] font-bold">
          Where sun meets water{" "}
          <span className="ml-3 text-[14px] font-normal text-muted">
            battery watts at each speed, against what the sun pays
          </span>
        </h1>
        <div className="min-h-0 flex-1">
          {picture ? (
            <CrossingChart
              picture={picture}
              planSpeed={design.plan.speed_mps}
              stale={stale}
              onPlanSpeed={(speed) =>
                apply(
                  (current) => withValue(current, "/plan/speed_mps", Number(speed.toFixed(4))),
                  "/plan/speed_mps",
                )
              }
            />
          ) : (
            <Waiting error={error} retry={retry} what="The crossing chart" />
          )}
        </div>
      </main>
      <Findings title="What this hull tells you" findings={picture?.findings} stale={stale} />
    </FieldWarnings.Provider>
  );
}
