import { Tabs } from "radix-ui";
import { useState } from "react";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { useOwnCells } from "../../kit/ownCells";
import { useSearch } from "../../kit/search";
import { Bench, Picture } from "../../kit/ui/Page";
import { BeforeView } from "./BeforeView";
import { ConnectingView } from "./ConnectingView";
import { FrameFields, FramesView } from "./FramesView";
import { MinuteFields } from "./MinuteFields";
import { asked, type Minute, useMinute } from "./minute";
import { MoneyFields, PartFields } from "./PartFields";
import { PartsView } from "./PartsView";
import { Sections, type View } from "./Sections";
import { SunView } from "./SunView";
import { TestFields } from "./TestFields";
import { TestsView } from "./TestsView";

/** Buy, build, connect, and prove it in the first sun. */
export default function FitoutStation() {
  const { variant } = useDesign();
  const [minute, setMinute] = useMinute(variant.boat_id);
  const { data: picture, stale, error, retry } = useStudy("fitout/picture", asked(minute));
  const [search, setSearch] = useSearch();
  const [part, setPart] = useState<string | null>(null);
  const [place, setPlace] = useState<string | null>(null);
  const [test, setTest] = useState<string | null>(null);
  const [step, setStep] = useState<string | null>(null);
  useOwnCells(picture);
  const wanted = search.get("view") ?? "";
  const view = (
    ["parts", "frames", "connecting", "sun", "tests", "before"].includes(wanted) ? wanted : "parts"
  ) as View;
  const choose = (next: string) =>
    setSearch((search) => {
      if (next === "parts") search.delete("view");
      else search.set("view", next);
    });
  const set = (part: Partial<Minute>) => setMinute({ ...minute, ...part });
  return (
    <Tabs.Root value={view} onValueChange={choose} orientation="vertical" className="contents">
      <Bench of="What is built">
        <Sections
          progress={picture?.progress}
          next={picture?.next_step ?? null}
          steps={picture?.steps ?? []}
        />
        {picture && view === "parts" && (
          <>
            <PartFields key={part} picture={picture} chosen={part} onChoose={setPart} />
            <MoneyFields picture={picture} />
          </>
        )}
        {picture && view === "frames" && <FrameFields picture={picture} chosen={place} onChoose={setPlace} />}
        {picture && view === "tests" && (
          <TestFields key={test} picture={picture} chosen={test} onChoose={setTest} />
        )}
        {picture && (view === "connecting" || view === "sun") && (
          <MinuteFields
            minute={picture.minute}
            onMinute={set}
            wiping={view === "sun"}
            signing={view === "connecting"}
          />
        )}
      </Bench>
      <Picture>
        <Tabs.Content
          value={view}
          className={`flex min-h-0 flex-1 flex-col outline-none transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}
          data-view={view}
        >
          {!picture ? (
            <Waiting error={error} retry={retry} what="The fit-out" />
          ) : view === "connecting" ? (
            <ConnectingView picture={picture} chosen={step} onChoose={setStep} />
          ) : view === "frames" ? (
            <FramesView picture={picture} chosen={place} onChoose={setPlace} />
          ) : view === "sun" ? (
            <SunView picture={picture} onMinute={set} />
          ) : view === "tests" ? (
            <TestsView picture={picture} chosen={test} onChoose={setTest} />
          ) : view === "before" ? (
            <BeforeView picture={picture} />
          ) : (
            <PartsView picture={picture} chosen={part} onChoose={setPart} />
          )}
        </Tabs.Content>
      </Picture>
    </Tabs.Root>
  );
}
