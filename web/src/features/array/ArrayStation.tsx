import { useEffect, useRef, useState } from "react";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { Dimmed, Picture } from "../../kit/ui/Page";
import { Views } from "../../kit/ui/Views";
import { ArrayBench } from "./ArrayBench";
import { BurdenView } from "./BurdenView";
import { DeckView } from "./DeckView";
import { NextView } from "./NextView";
import { PanelList } from "./PanelList";
import { SkyView } from "./SkyView";
import { StateBar } from "./StateBar";
import { TiltView } from "./TiltView";
import { YearView } from "./YearView";

const VIEWS = [
  ["deck", "Deck in the sun"],
  ["sky", "Sky from a panel"],
  ["tilt", "Tilt"],
  ["costs", "What it costs"],
  ["next", "One more"],
  ["year", "Year"],
  ["list", "List"],
] as const;

export interface Seen {
  groupId: string | null;
  number: number;
}

/** A draft at once, and the whole after a rest where the draft was coarser. */
function useDeck(seen: Seen) {
  const at = { group_id: seen.groupId, number: seen.number };
  const draft = useStudy("array/picture", { ...at, draft: true });
  const coarse = draft.data?.coarse ?? false;
  const whole = useStudy("array/whole", at, coarse);
  return coarse && whole.data && !whole.stale ? { ...draft, data: whole.data } : draft;
}

/** A place that is added is the one that is looked at. */
function useNewest(places: { id: string }[], choose: (id: string) => void) {
  const before = useRef(places.length);
  const newest = places.at(-1)?.id;
  useEffect(() => {
    if (places.length > before.current && newest) choose(newest);
    before.current = places.length;
  }, [places.length, newest, choose]);
}

/** What the sun and the shade make of the panels on this boat. */
export default function ArrayStation() {
  const { design } = useDesign();
  const [seen, setSeen] = useState<Seen>({ groupId: null, number: 0 });
  const [chosen, setChosen] = useState<string | null>(null); // a place, or a thing
  const { data: picture, stale, error, retry } = useDeck(seen);
  const advice = useStudy("array/advice");
  const placeId = chosen ?? design.places?.[0]?.id ?? null;
  useNewest(design.places ?? [], setChosen);
  const see = (groupId: string, number: number) => setSeen({ groupId, number });
  return (
    <>
      <ArrayBench picture={picture} advice={advice.data} chosen={placeId} onChoose={setChosen} />
      <Picture>
        <h1 className="sr-only">Deck in the sun</h1>
        {picture ? (
          <>
            <StateBar advice={advice.data} />
            <Views label="What to look at" views={VIEWS}>
              {(view) => (
                <Dimmed stale={stale}>
                  {view === "deck" && (
                    <DeckView picture={picture} chosen={placeId} onChoose={setChosen} onSee={see} />
                  )}
                  {view === "sky" && <SkyView picture={picture} onSee={see} />}
                  {view === "tilt" && <TiltView chosen={placeId} onChoose={setChosen} />}
                  {view === "costs" && <BurdenView />}
                  {view === "next" && <NextView />}
                  {view === "year" && <YearView />}
                  {view === "list" && <PanelList picture={picture} advice={advice.data} />}
                </Dimmed>
              )}
            </Views>
          </>
        ) : (
          <Waiting error={error} retry={retry} what="The deck" />
        )}
      </Picture>
    </>
  );
}
