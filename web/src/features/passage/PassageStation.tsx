import { useState } from "react";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { useOwnCells } from "../../kit/ownCells";
import { useSay, useUnits } from "../../kit/preferences";
import { Begin } from "../../kit/ui/Field";
import { Bench, Heading, Picture } from "../../kit/ui/Page";
import { SaveAs } from "../../kit/ui/SaveAs";
import { View } from "../../kit/ui/View";
import { Views } from "../../kit/ui/Views";
import { ChartView } from "./ChartView";
import { LeaveStrip } from "./LeaveStrip";
import { MarksTable } from "./MarksTable";
import { PassageBench } from "./PassageBench";
import { RibbonChart } from "./RibbonChart";
import { WaysView } from "./WaysView";

const VIEWS = [
  ["ribbon", "The ribbon"],
  ["chart", "Chart"],
  ["marks", "Mark by mark"],
  ["ways", "Ways to go"],
] as const;

/** There and back, along a coast, against a stream: when to leave, how fast, when to turn back. */
export default function PassageStation() {
  const { design } = useDesign();
  const say = useSay();
  const units = useUnits();
  const planned = design.passage != null;
  const { data: picture, stale, error, retry } = useStudy("passage/picture", {}, planned);
  const sure = useStudy("passage/sure", {}, planned);
  const [leg, setLeg] = useState<string | null>(null);
  useOwnCells(planned ? picture : null);
  if (!planned)
    return (
      <>
        <Bench of="The passage as it is set" />
        <Picture>
          <div className="m-auto max-w-[52ch] text-center">
            <h1 className="m-0 mb-2 text-[18px]">No passage yet</h1>
            <p>
              Say where she goes, leg by leg: a name, a distance, a course. The boat, her sun and her bank are
              taken from the stations before.
            </p>
            <span className="inline-block">
              <Begin at="/passage" words="plan a passage" />
            </span>
          </div>
        </Picture>
      </>
    );
  return (
    <>
      <PassageBench picture={picture ?? undefined} open={leg} onOpen={setLeg} />
      <Picture>
        <Views label="Views of the passage" views={VIEWS}>
          {(view) =>
            !picture ? (
              <Waiting error={error} retry={retry} what="The passage" />
            ) : view === "marks" ? (
              <View label="Mark by mark" stale={stale}>
                <Heading title="Mark by mark" in="when she is there, with what in the bank" />
                <MarksTable picture={picture} />
                <p className="mt-3 flex gap-5">
                  <SaveAs url="/api/passage/card.pdf" file="passage.pdf" asked={{ unit: units.speed }}>
                    save the card for the wheel (PDF)
                  </SaveAs>
                  <SaveAs url="/api/passage/route.gpx" file="route.gpx">
                    save the way (GPX)
                  </SaveAs>
                </p>
              </View>
            ) : view === "chart" ? (
              <>
                <Heading
                  title="On the plane"
                  in="north up; drag a mark, press twice for a new one, or move the hour"
                />
                <ChartView picture={picture} chosen={leg} onLeg={setLeg} />
              </>
            ) : view === "ways" ? (
              <WaysView sure={sure} />
            ) : (
              <div
                className={`flex min-h-0 flex-1 flex-col overflow-y-auto transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}
              >
                <Heading
                  title="The way, straightened"
                  in={`${say("distance_m", picture.distance_m)}, read from left to right; ${picture.stops_shortened ? "long stops are drawn shorter" : "a stop is as wide as it is long"}`}
                />
                <LeaveStrip picture={picture} />
                <RibbonChart
                  picture={picture}
                  sure={sure.stale ? null : (sure.data ?? null)}
                  chosen={leg}
                  onLeg={setLeg}
                />
              </div>
            )
          }
        </Views>
      </Picture>
    </>
  );
}
