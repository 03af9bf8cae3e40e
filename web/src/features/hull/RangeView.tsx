import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { RangeChart } from "./RangeChart";

/** Range against speed, by sky. */
export function RangeView({ onPlanSpeed }: { onPlanSpeed: (speed: number) => void }) {
  const { design } = useDesign();
  const { data: picture, stale, error, retry } = useStudy("hull/range");
  if (!picture) return <Waiting error={error} retry={retry} what="The range" />;
  if (picture.reaches.length === 0)
    return (
      <p className="m-auto max-w-[44ch] text-center text-muted">
        Without a bank there is no range to a reserve: the boat goes as long as the sun shines. Add a bank on
        the Bank station to see how far it carries.
      </p>
    );
  return (
    <div className="min-h-0 flex-1">
      <RangeChart
        picture={picture}
        planSpeed={design.plan.speed_mps}
        stale={stale}
        onPlanSpeed={onPlanSpeed}
      />
    </div>
  );
}
