/** The design as a history of documents: apply, undo, redo; kept over a reload for as long as the tab lives. */
import type { BoatDesign } from "../api/client";

export interface History {
  past: BoatDesign[];
  present: BoatDesign;
  future: BoatDesign[];
  revision: number; // of the server, that the present builds on
  saved: string; // the document the server holds, as text
  touched: { key: string; at: number } | null;
}

export type Action =
  | { kind: "apply"; change: (design: BoatDesign) => BoatDesign; key: string; at: number }
  | { kind: "undo" }
  | { kind: "redo" }
  | { kind: "saved"; revision: number; text: string }
  | { kind: "theirs"; revision: number; design: BoatDesign }
  | { kind: "rebase"; revision: number };

const DEEPEST = 80;
const SAME_TOUCH_MS = 1500; // edits of one entry this close are one step of undo

const entries = (document: string) => document.split('"id":').length;

export function opened(design: BoatDesign, revision: number): History {
  return { past: [], present: design, future: [], revision, saved: JSON.stringify(design), touched: null };
}

export function reduce(state: History, action: Action): History {
  switch (action.kind) {
    case "apply": {
      const next = action.change(state.present);
      const [was, is] = [JSON.stringify(state.present), JSON.stringify(next)];
      if (was === is) return state;
      const close = state.touched?.key === action.key && action.at - state.touched.at < SAME_TOUCH_MS;
      const joined = close && entries(was) === entries(is); // an entry more or less is a step of its own
      const past = joined && state.past.length ? state.past : [...state.past, state.present].slice(-DEEPEST);
      return { ...state, past, present: next, future: [], touched: { key: action.key, at: action.at } };
    }
    case "undo": {
      const before = state.past.at(-1);
      if (!before) return state;
      return {
        ...state,
        past: state.past.slice(0, -1),
        present: before,
        future: [state.present, ...state.future],
        touched: null,
      };
    }
    case "redo": {
      const [next, ...rest] = state.future;
      if (!next) return state;
      return { ...state, past: [...state.past, state.present], present: next, future: rest, touched: null };
    }
    case "saved":
      return { ...state, revision: action.revision, saved: action.text };
    case "theirs":
      return {
        ...state,
        past: [...state.past, state.present].slice(-DEEPEST),
        present: action.design,
        future: [],
        revision: action.revision,
        saved: JSON.stringify(action.design),
        touched: null,
      };
    case "rebase":
      return { ...state, revision: action.revision };
  }
}

const keyOf = (variantId: string) => `parhelion.history.${variantId}`;

export function remember(variantId: string, state: History): void {
  try {
    sessionStorage.setItem(keyOf(variantId), JSON.stringify({ ...state, touched: null }));
  } catch {
    // The storage is full or shut: undo then ends at a reload, and nothing else is lost.
  }
}

/** The remembered history, when it builds on the revision the server has now, or ends in what the server holds. */
export function recalled(variantId: string, revision: number, design: BoatDesign): History | null {
  try {
    const held = JSON.parse(sessionStorage.getItem(keyOf(variantId)) ?? "null") as History | null;
    if (!held || held.revision === revision) return held;
    const saved = JSON.stringify(design);
    return JSON.stringify(held.present) === saved ? { ...held, revision, saved } : null;
  } catch {
    return null;
  }
}
