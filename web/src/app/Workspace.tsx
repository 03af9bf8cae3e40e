import { useQuery } from "@tanstack/react-query";
import { memo, type ReactNode, Suspense, useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { type BoatRow, client, dataOf, type Finding } from "../api/client";
import { useList } from "../asking/lists";
import { LiveProvider, useCounts, useFindings, useRail, useUsual } from "../asking/live";
import { useDesign } from "../kit/document";
import { HOUR_EVENT } from "../kit/hour";
import { type Own, OwnCells } from "../kit/ownCells";
import { withValue } from "../kit/pointer";
import { usePreferences } from "../kit/preferences";
import { useSearch } from "../kit/search";
import type { Station } from "../kit/station";
import { Alone } from "../kit/ui/Alone";
import { UsualContext } from "../kit/ui/Field";
import { FieldWarnings } from "../kit/ui/fields";
import { AnswerRail } from "./AnswerRail";
import { BoatMenu } from "./BoatMenu";
import { CourseLine } from "./CourseLine";
import { Findings } from "./Findings";
import { LogbookProvider } from "./logbook";
import { RecordsProvider } from "./records";
import { DesignProvider, useSaving } from "./saving";
import { ConflictDialog, GoneDialog, HistoryDialog, Sheet, Shortcuts } from "./sheets";
import { STATIONS } from "./stations";
import { VariantPanel } from "./VariantPanel";

export function useBoats() {
  return useQuery({ queryKey: ["boats"], queryFn: () => dataOf(client.GET("/api/boats")) });
}

const readVariant = (id: string) =>
  dataOf(client.GET("/api/variants/{variant_id}", { params: { path: { variant_id: id } } }));

/** One boat at one station. */
export function Workspace() {
  const { variantId = "", station: key } = useParams();
  const station = STATIONS.find((item) => item.key === key);
  const boats = useBoats();
  const variant = useQuery({
    queryKey: ["variant", variantId],
    queryFn: () => readVariant(variantId),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
    retry: 1,
  });
  const entries = useList("entries");
  if (!station) return <Nowhere what="There is no such station." />;
  if (variant.error) return <Nowhere what={`This boat could not be opened: ${variant.error.message}`} />;
  if (entries.error)
    return <Nowhere what={`The entries of a boat could not be read: ${entries.error.message}`} />;
  if (!variant.data || !boats.data || !entries.data)
    return (
      <p className="p-6" role="status">
        Opening the boat …
      </p>
    );
  return (
    <DesignProvider key={variantId} variant={variant.data} entries={entries.data}>
      <RecordsProvider boatId={variant.data.boat_id}>
        <LogbookProvider boatId={variant.data.boat_id}>
          <Asking>
            {(comparedId) => <Frame boats={boats.data} station={station} comparedId={comparedId} />}
          </Asking>
        </LogbookProvider>
      </RecordsProvider>
    </DesignProvider>
  );
}

function Nowhere({ what }: { what: string }) {
  return (
    <main className="grid h-full place-content-center justify-items-center gap-3">
      <p role="alert">{what}</p>
      <a className="link" href="/">
        To the first boat
      </a>
    </main>
  );
}

/** What the screen is asked about beside the design: the variant it is held against, and the clock time. */
function Asking({ children }: { children: (comparedId: string | null) => ReactNode }) {
  const { variant } = useDesign();
  const [search] = useSearch();
  const comparedId = search.get("compare");
  const compared = useQuery({
    queryKey: ["compared", comparedId],
    queryFn: () => readVariant(comparedId ?? ""),
    enabled: comparedId !== null && comparedId !== variant.id,
  });
  return (
    <LiveProvider comparedWith={(comparedId && compared.data?.design) || null} at={search.get("at")}>
      {children(comparedId)}
    </LiveProvider>
  );
}

const NOTHING_TOLD: Finding[] = []; // one for all, so that it changes nothing

/** The station itself: what comes in for the rail, the findings or the saving does not draw it again. */
const Room = memo(({ station }: { station: Station }) => (
  <Alone what={station.label} className="picture p-6">
    <station.Page />
  </Alone>
));

function Frame(props: { boats: BoatRow[]; station: Station; comparedId: string | null }) {
  const { boats, station, comparedId } = props;
  const { design, variant } = useDesign();
  const { saveState, pause, fault, tryNow, conflict, undo, redo, canUndo, canRedo } = useSaving();
  const [, setSearch] = useSearch();
  const rail = useRail();
  const warnings = useCounts();
  const told = useFindings(station.key);
  const usual = useUsual();
  const [keysShown, setKeysShown] = useState(false);
  const [past, setPast] = useState(false);
  const [own, setOwn] = useState<Own | null>(null);
  const keep = useRef<HTMLButtonElement>(null);
  useKeys(
    () => setKeysShown(true),
    () => keep.current?.click(),
  );
  const boat = boats.find((item) => item.id === variant.boat_id);
  useEffect(() => {
    document.title = `${design.name} · Parhelion`;
  }, [design.name]);

  return (
    <div className="frame">
      <CourseLine warnings={warnings}>
        <div className="course-tools flex items-center gap-1.5">
          <button type="button" className="btn" disabled={!canUndo} onClick={undo} aria-label="Undo">
            <span aria-hidden="true">↶</span>
          </button>
          <button type="button" className="btn" disabled={!canRedo} onClick={redo} aria-label="Redo">
            <span aria-hidden="true">↷</span>
          </button>
          <button type="button" className="btn" onClick={() => setKeysShown(true)} aria-label="Keys">
            ?
          </button>
        </div>
        <BoatMenu
          boats={boats}
          name={design.name}
          variantName={variant.name}
          saveState={saveState}
          again={{ pause, fault, tryNow }}
          onHistory={() => setPast(true)}
        />
      </CourseLine>
      <Suspense
        fallback={
          <p className="picture p-6" role="status">
            Opening the station …
          </p>
        }
      >
        <FieldWarnings.Provider value={told.data ?? NOTHING_TOLD}>
          <UsualContext.Provider value={usual}>
            <OwnCells.Provider value={setOwn}>
              <Room key={station.key} station={station} />
            </OwnCells.Provider>
          </UsualContext.Provider>
          <Findings title={station.tells} findings={told.data} stale={told.stale} />
        </FieldWarnings.Provider>
      </Suspense>
      <AnswerRail answers={rail.data} own={own} stale={rail.stale} error={rail.error}>
        <VariantPanel
          boat={boat}
          comparedId={comparedId}
          trigger={keep}
          onCompare={(id) =>
            setSearch((search) => {
              if (id) search.set("compare", id);
              else search.delete("compare");
            }, true)
          }
        />
      </AnswerRail>
      <Sheet open={conflict !== null}>
        <ConflictDialog />
      </Sheet>
      <Sheet open={saveState === "gone"}>
        <GoneDialog />
      </Sheet>
      <Sheet open={past}>
        <HistoryDialog open={past} onClose={() => setPast(false)} />
      </Sheet>
      <Sheet open={keysShown}>
        <Shortcuts open onOpen={setKeysShown} />
      </Sheet>
    </div>
  );
}

/** The keys of the frame; none fires while something is typed or a sheet is open. */
function useKeys(help: () => void, keep: () => void) {
  const { shortcuts } = usePreferences();
  const { variantId } = useParams();
  const { apply } = useDesign();
  const { undo, redo } = useSaving();
  const navigate = useNavigate();
  useEffect(() => {
    const turn = (by: number) =>
      apply(
        (current) =>
          withValue(current, "/plan/heading_deg", ((current.plan.heading_deg ?? 0) + by + 360) % 360),
        "heading",
      );
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest("input, select, textarea, [role=dialog], [role=alertdialog], [role=menu]")) return;
      if (event.key === "?") help();
      if (!shortcuts) return;
      const station = /^\d$/.test(event.key) ? STATIONS[Number(event.key)] : undefined;
      if (station) navigate({ pathname: `/${station.key}/${variantId}`, search: window.location.search });
      else if (event.key === "u") undo();
      else if (event.key === "U") redo();
      else if (event.key === "k") keep();
      else if (event.key === ",") turn(-5);
      else if (event.key === ".") turn(5);
      else if (event.key === "[" || event.key === "]")
        window.dispatchEvent(new CustomEvent(HOUR_EVENT, { detail: event.key === "[" ? -1 : 1 }));
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [shortcuts, variantId, undo, redo, apply, navigate, help, keep]);
}
