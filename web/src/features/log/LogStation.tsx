import { useEffect, useState } from "react";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useLogbook } from "../../kit/logbook";
import { useOwnCells } from "../../kit/ownCells";
import { useSearch } from "../../kit/search";
import { Bench, Picture } from "../../kit/ui/Page";
import { Views } from "../../kit/ui/Views";
import { DayView } from "./DayView";
import { MetersView } from "./MetersView";
import { NoteBar } from "./NoteBar";
import { NowView } from "./NowView";
import { OutingList } from "./OutingList";
import { ReadingsView } from "./ReadingsView";
import { SeasonView } from "./SeasonView";
import { TrackView } from "./TrackView";
import { useDevices } from "./useDevices";

const VIEWS = [
  ["day", "The day as it went"],
  ["now", "Now"],
  ["readings", "Readings"],
  ["track", "Her track"],
  ["meters", "Meters"],
  ["season", "The season"],
] as const;

/** What the meters said, what it means, and what was learned. */
export default function LogStation() {
  const { open, outing } = useLogbook();
  const [search, setSearch] = useSearch();
  const asked = search.get("outing") ?? "";
  const view = search.get("view");
  const [typing, setTyping] = useState(false);
  useDevices();
  useEffect(() => open(asked), [open, asked]);
  useEffect(() => () => open(""), [open]);
  const { data: picture, stale, error, retry } = useStudy("log/picture");
  useOwnCells(picture);
  const choose = (id: string) => setSearch((search) => search.set("outing", id));
  return (
    <>
      <Bench of="The log">
        {picture && <OutingList picture={picture} chosen={outing} onChoose={choose} />}
      </Bench>
      <Picture>
        {!picture ? (
          <Waiting error={error} retry={retry} what="The log" />
        ) : (
          <>
            <Views label="Views of the log" views={VIEWS}>
              {(shown) => (
                <div
                  className={`flex min-h-0 flex-1 flex-col transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}
                >
                  {shown === "now" ? (
                    <NowView day={picture.day ?? null} onNote={() => setTyping(true)} onBegun={choose} />
                  ) : shown === "season" ? (
                    <SeasonView onChoose={choose} />
                  ) : picture.day == null ? (
                    <Empty />
                  ) : shown === "readings" ? (
                    <ReadingsView day={picture.day} />
                  ) : shown === "track" ? (
                    <TrackView day={picture.day} />
                  ) : shown === "meters" ? (
                    <MetersView />
                  ) : (
                    <DayView day={picture.day} />
                  )}
                </div>
              )}
            </Views>
            {view !== "season" && (
              <NoteBar picture={picture} large={typing} onSmall={() => setTyping(false)} onBegun={choose} />
            )}
          </>
        )}
      </Picture>
    </>
  );
}

const Empty = () => (
  <div className="m-auto max-w-[48ch] text-center">
    <h1 className="m-0 mb-2 text-[18px]">Nothing is read yet</h1>
    <p>
      Note what any meter says in the line below: watts, volts, charge, speed, and a word for the sky. A
      handful of readings, laid over the model of the same hours, says what is right and what is not.
    </p>
  </div>
);
