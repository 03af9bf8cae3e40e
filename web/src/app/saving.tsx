import { useQueryClient } from "@tanstack/react-query";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useReducer,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import {
  type BoatDesign,
  type ConflictOut,
  client,
  type Problem,
  problemsIn,
  type VariantOut,
} from "../api/client";
import { DocumentContext } from "../kit/document";
import { Drafts } from "../kit/drafts";
import type { Entries } from "../kit/entries";
import { type History, isOurs, opened, recalled, reduce, remember } from "./designHistory";
import { keepUnsaved } from "./unsaved";

/** gone: the boat was removed elsewhere; refused: the server will not take it as it is, so the next edit is sent. */
export type SaveState = "saved" | "saving" | "failed" | "conflict" | "gone" | "refused";

interface SavingHandle {
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  saveState: SaveState;
  pause: string; // until the next try, where one failed
  fault: Problem | null; // what the server says of the last one
  tryNow: () => void;
  restore: (design: BoatDesign) => void;
  letGo: () => void; // what is unsaved of a boat that is gone
  conflict: ConflictOut | null;
  keepMine: () => void;
  takeTheirs: () => void;
}

const Context = createContext<SavingHandle | null>(null);
const AUTOSAVE_MS = 700;
const HEARD_MS = 20_000; // a save whose reply takes longer is tried again
const PAUSES: [number, string][] = [
  [2000, "2 s"],
  [4000, "4 s"],
  [8000, "8 s"],
  [15_000, "15 s"],
  [30_000, "half a minute"],
  [60_000, "minute"],
]; // between tries, in milliseconds and words; the last one over and over
const MOST_KEPT = 60_000; // characters that a browser sends for a page that is gone

/** The design being worked on: edits are local and instant, saved on a short pause. */
export function DesignProvider(props: { variant: VariantOut; entries: Entries; children: ReactNode }) {
  const { variant, entries, children } = props;
  const queries = useQueryClient();
  const [state, dispatch] = useReducer(
    reduce,
    null,
    () => recalled(variant.id, variant.revision, variant.design) ?? opened(variant.design, variant.revision),
  );
  const [saveState, setSaveState] = useState<SaveState>("saved");
  const [conflict, setConflict] = useState<ConflictOut | null>(null);
  const [attempt, setAttempt] = useState(0);
  const [failures, setFailures] = useState(0);
  const [fault, setFault] = useState<Problem | null>(null);
  const latest = useRef(state);
  latest.current = state;
  const busy = useRef(false);
  const [pauseMs, pause] = PAUSES[Math.min(failures, PAUSES.length) - 1] ?? [0, ""];
  const tryNow = useCallback(() => setAttempt((n) => n + 1), []);

  useEffect(() => remember(variant.id, state), [variant.id, state]);

  const text = JSON.stringify(state.present);
  const unsaved = text !== state.saved;
  useEffect(() => {
    const { present, revision, sent } = state;
    keepUnsaved(variant.id, unsaved ? { revision, design: present, sent, at: Date.now() } : null);
  }, [variant.id, state, unsaved]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: `attempt` asks for another try
  useEffect(() => {
    if (!unsaved || conflict) return;
    const timer = setTimeout(async () => {
      if (busy.current) {
        setAttempt((n) => n + 1);
        return;
      }
      busy.current = true;
      setSaveState("saving");
      dispatch({ kind: "sending", text });
      try {
        const { data, error, response } = await client.PUT("/api/variants/{variant_id}", {
          params: { path: { variant_id: variant.id } },
          body: { revision: state.revision, design: state.present, apart: state.apart },
          signal: AbortSignal.timeout(HEARD_MS),
        });
        if (data) {
          dispatch({ kind: "saved", revision: data.revision, text });
          setSaveState("saved");
          setFailures(0);
          setFault(null);
          queries.invalidateQueries({ queryKey: ["boats"] });
        } else if (response.status === 409) {
          const found = error as unknown as ConflictOut;
          const { sent } = latest.current;
          if (isOurs(sent, found.current.design as BoatDesign)) {
            dispatch({
              kind: "saved",
              revision: found.current.revision,
              text: JSON.stringify(found.current.design),
            });
          } else {
            setConflict(found);
            setSaveState("conflict");
          }
        } else if (response.status === 404) {
          setSaveState("gone");
        } else if (response.status < 500) {
          console.warn(problemsIn(error));
          setSaveState("refused");
        } else {
          setSaveState("failed");
          setFault(problemsIn(error)[0] ?? null);
          setFailures((n) => n + 1);
        }
      } catch {
        setFault(null);
        setSaveState("failed");
        setFailures((n) => n + 1);
      } finally {
        busy.current = false;
      }
    }, AUTOSAVE_MS);
    return () => clearTimeout(timer);
  }, [text, state.saved, state.revision, variant.id, conflict, attempt, queries]);

  useEffect(() => {
    if (failures === 0) return;
    const timer = setTimeout(tryNow, pauseMs);
    window.addEventListener("online", tryNow);
    return () => {
      clearTimeout(timer);
      window.removeEventListener("online", tryNow);
    };
  }, [failures, pauseMs, tryNow]);

  useEffect(() => {
    if (!unsaved) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [unsaved]);

  const apply = useCallback(
    (change: (design: BoatDesign) => BoatDesign, key: string) =>
      dispatch({ kind: "apply", change, key, at: Date.now() }),
    [],
  );
  const [drafts] = useState(() => new Drafts(variant.id, () => latest.current.present, apply));
  useEffect(() => drafts.recall(), [drafts]);
  const typed = useSyncExternalStore(drafts.subscribe, drafts.waiting);
  useEffect(() => keepOnLeaving(variant.id, latest), [variant.id]);
  const document = useMemo(
    () => ({ variant, design: state.present, apply, drafts, entries }),
    [variant, state.present, apply, drafts, entries],
  );
  const handle: SavingHandle = {
    undo: () => dispatch({ kind: "undo" }),
    redo: () => dispatch({ kind: "redo" }),
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    saveState: !unsaved && !typed ? "saved" : !unsaved || saveState === "saved" ? "saving" : saveState,
    pause,
    fault,
    tryNow,
    restore: (design) => dispatch({ kind: "restored", design }),
    letGo: () => dispatch({ kind: "saved", revision: state.revision, text }),
    conflict,
    keepMine: () => {
      if (conflict) dispatch({ kind: "rebase", revision: conflict.current.revision });
      setConflict(null);
    },
    takeTheirs: () => {
      if (conflict)
        dispatch({ kind: "theirs", revision: conflict.current.revision, design: conflict.current.design });
      setConflict(null);
      setSaveState("saved");
    },
  };
  return (
    <DocumentContext.Provider value={document}>
      <Context.Provider value={handle}>{children}</Context.Provider>
    </DocumentContext.Provider>
  );
}

/** A page that goes, or another boat opened, within the pause before saving: what is unsaved is saved then. */
function keepOnLeaving(variantId: string, latest: { current: History }) {
  const keep = () => {
    const { present, saved, revision, apart } = latest.current;
    if (JSON.stringify(present) === saved) return;
    const body = JSON.stringify({ revision, design: present, apart });
    const headers = { "Content-Type": "application/json" };
    const keepalive = body.length < MOST_KEPT;
    void fetch(`/api/variants/${variantId}`, { method: "PUT", body, headers, keepalive }).catch(() => null);
  };
  window.addEventListener("pagehide", keep);
  return () => {
    window.removeEventListener("pagehide", keep);
    keep();
  };
}

export function useSaving(): SavingHandle {
  const handle = useContext(Context);
  if (!handle) throw new Error("useSaving outside its provider");
  return handle;
}
