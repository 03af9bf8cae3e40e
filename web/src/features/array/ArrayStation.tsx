import { useState } from "react";
import { useDesign } from "../../app/design";
import { Findings } from "../../app/Findings";
import { useArrayPicture } from "../../app/live";
import { Waiting } from "../../shared/chart/Waiting";
import { FieldWarnings } from "../../shared/ui/fields";
import { Views } from "../../shared/ui/Views";
import { ArrayBench } from "./ArrayBench";
import { DeckView } from "./DeckView";
import { PanelList } from "./PanelList";
import { SkyView } from "./SkyView";

const VIEWS = [
  ["deck", "Deck in the sun"],
  ["sky", "Sky from a panel"],
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
  const [chosen, setChosen] = useState<string | null>(null); // a place, or a spar
  const { data: picture, stale, error, retry } = useArrayPicture(design, seen.groupId, seen.number);
  const placeId = chosen ?? design.places?.[0]?.id ?? null;
  const see = (groupId: string, number: number) => setSeen({ groupId, number });
  return (
    <FieldWarnings.Provider value={picture?.findings ?? []}>
      <ArrayBench picture={picture} chosen={placeId} onChoose={setChosen} />
      <main className="picture flex min-h-0 min-w-0 flex-col px-4 pt-3 pb-1">
        <h1 className="m-0 mb-1 text-[16px] font-bold">
          Deck in the sun{" "}
          <span className="ml-3 text-[14px] font-normal text-muted">
            kWh per kW of nameplate on this day, panel by panel
          </span>
        </h1>
        {picture ? (
          <Views label="What to look at" views={VIEWS}>
            {(view) => (
              <div
                className={`flex min-h-0 flex-1 flex-col transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}
              >
                {view === "deck" && (
                  <DeckView picture={picture} chosen={placeId} onChoose={setChosen} onSee={see} />
                )}
                {view === "sky" && <SkyView picture={picture} onSee={see} />}
                {view === "list" && <PanelList picture={picture} />}
              </div>
            )}
          </Views>
        ) : (
          <Waiting error={error} retry={retry} what="The deck" />
        )}
      </main>
      <Findings title="What this array tells you" findings={picture?.findings} stale={stale} />
    </FieldWarnings.Provider>
  );
}
