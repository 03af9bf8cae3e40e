import { useState } from "react";
import { useDesign } from "../../app/design";
import { Findings } from "../../app/Findings";
import { useArrayAdvice, useArrayPicture } from "../../app/live";
import { Waiting } from "../../shared/chart/Waiting";
import { FieldWarnings } from "../../shared/ui/fields";
import { Views } from "../../shared/ui/Views";
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

/** What the sun and the shade make of the panels on this boat. */
export default function ArrayStation() {
  const { design } = useDesign();
  const [seen, setSeen] = useState<Seen>({ groupId: null, number: 0 });
  const [chosen, setChosen] = useState<string | null>(null); // a place, or a thing
  const { data: picture, stale, error, retry } = useArrayPicture(design, seen.groupId, seen.number);
  const advice = useArrayAdvice(design);
  const placeId = chosen ?? design.places?.[0]?.id ?? null;
  const see = (groupId: string, number: number) => setSeen({ groupId, number });
  return (
    <FieldWarnings.Provider value={advice.data?.findings ?? []}>
      <ArrayBench picture={picture} advice={advice.data} chosen={placeId} onChoose={setChosen} />
      <main className="picture flex min-h-0 min-w-0 flex-col px-4 pt-3 pb-1">
        <h1 className="sr-only">Deck in the sun</h1>
        {picture ? (
          <>
            <StateBar advice={advice.data} />
            <Views label="What to look at" views={VIEWS}>
              {(view) => (
                <div
                  className={`flex min-h-0 flex-1 flex-col transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}
                >
                  {view === "deck" && (
                    <DeckView picture={picture} chosen={placeId} onChoose={setChosen} onSee={see} />
                  )}
                  {view === "sky" && <SkyView picture={picture} onSee={see} />}
                  {view === "tilt" && <TiltView chosen={placeId} onChoose={setChosen} />}
                  {view === "costs" && <BurdenView />}
                  {view === "next" && <NextView />}
                  {view === "year" && <YearView />}
                  {view === "list" && <PanelList picture={picture} advice={advice.data} />}
                </div>
              )}
            </Views>
          </>
        ) : (
          <Waiting error={error} retry={retry} what="The deck" />
        )}
      </main>
      <Findings title="What this array tells you" findings={advice.data?.findings} stale={advice.stale} />
    </FieldWarnings.Provider>
  );
}
