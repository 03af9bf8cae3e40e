import { useState } from "react";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { Dimmed, Picture } from "../../kit/ui/Page";
import { Views } from "../../kit/ui/Views";
import { BoardView } from "./BoardView";
import { BoxesYear } from "./BoxesYear";
import { CableList } from "./CableList";
import { ChargeSheet } from "./ChargeSheet";
import { Diagram } from "./Diagram";
import { Ladder } from "./Ladder";
import { PartsList } from "./PartsList";
import { StringsBench } from "./StringsBench";

const VIEWS = [
  ["ladder", "Voltage ladder"],
  ["board", "Strings"],
  ["diagram", "One-line diagram"],
  ["cables", "Cables"],
  ["settings", "Charge settings"],
  ["year", "Year"],
  ["parts", "Parts"],
] as const;

/** From panels to bank: each string between its controller and the bank, and what joins them. */
export default function StringsStation() {
  const { data: picture, stale, error, retry } = useStudy("strings/picture");
  const [chosen, setChosen] = useState<string | null>(null);
  const rungs = picture?.rungs ?? [];
  const string = rungs.find((rung) => rung.key === chosen)?.key ?? rungs[0]?.key ?? null;
  return (
    <>
      <StringsBench picture={picture} chosen={string} onChoose={setChosen} />
      <Picture>
        <h1 className="sr-only">Strings</h1>
        {picture ? (
          <Views label="What to look at" views={VIEWS}>
            {(view) => (
              <Dimmed stale={stale}>
                {view === "ladder" && <Ladder picture={picture} chosen={string} onChoose={setChosen} />}
                {view === "board" && <BoardView picture={picture} />}
                {view === "diagram" && <Diagram picture={picture} />}
                {view === "cables" && <CableList picture={picture} />}
                {view === "settings" && <ChargeSheet picture={picture} />}
                {view === "year" && <BoxesYear />}
                {view === "parts" && <PartsList picture={picture} />}
              </Dimmed>
            )}
          </Views>
        ) : (
          <Waiting error={error} retry={retry} what="The wiring" />
        )}
      </Picture>
    </>
  );
}
