/** The design as a history of documents: apply, undo, redo; kept over a reload for as long as the tab lives. */
import type { BoatDesign } from "../api/client";
import { adopted, same } from "./unsaved";

export interface History {
  past: BoatDesign[];
  present: BoatDesign;
  future: BoatDesign[];
  revision: number; // of the server, that the present builds on
  saved: string; // the document the server holds, as text
  sent: string[]; // documents on their way to the server, as texts: their replies may never be heard
  apart: boolean; // the next save is a state of its own in the boat's history, however soon it follows
  touched: { key: string; at: number } | null;
}

export type Action =
  | { kind: "apply"; change: (design: BoatDesign) => BoatDesign; key: string; at: number }
  | { kind: "undo" }
  | { kind: "redo" }
  | { kind: "sending"; text: string }
  | { kind: "saved"; revision: number; text: string }
  | { kind: "restored"; design: BoatDesign }
  | { kind: "theirs"; revision: number; design: BoatDesign }
  | { kind: "rebase"; revision: number };

const DEEPEST = 80;
const UNHEARD = 4; // saves without a reply that are remembered
const SAME_TOUCH_MS = 1500; // edits of one entry this close are one step of undo

const entries = (document: string) => document.split('"id":').length;

export function opened(design: BoatDesign, revision: number): History {
  const saved = JSON.stringify(design);
  return { past: [], present: design, future: [], revision, saved, sent: [], apart: false, touched: null };
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
    case "sending":
      return {
        ...state,
        sent: [...state.sent.filter((text) => text !== action.text), action.text].slice(-UNHEARD),
      };
    case "saved":
      return { ...state, revision: action.revision, saved: action.text, sent: [], apart: false };
    case "restored":
      return {
        ...state,
        past: [...state.past, state.present].slice(-DEEPEST),
        present: action.design,
        future: [],
        apart: true,
        touched: null,
      };
    case "theirs":
      return {
        ...state,
        past: [...state.past, state.present].slice(-DEEPEST),
        present: action.design,
        future: [],
        revision: action.revision,
        saved: JSON.stringify(action.design),
        sent: [],
        touched: null,
      };
    case "rebase":
      return { ...state, revision: action.revision, apart: true };
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

/**
 * Where this tab was, or where a tab that closed was before its last edit was saved. What the server has now may
 * be the very save whose reply was never heard; another window's save stands beside mine until the person chooses.
 */
export function recalled(variantId: string, revision: number, design: BoatDesign): History | null {
  const held = heldIn(variantId);
  const saved = JSON.stringify(design);
  if (!held) {
    const left = adopted(variantId);
    if (!left || same(left.design, design)) return null;
    const ours = isOurs(left.sent, design);
    const from = ours ? revision : left.revision;
    return { ...opened(design, from), past: [design], present: left.design, apart: true };
  }
  if (held.revision === revision) return held;
  if (same(held.present, design)) return { ...held, revision, saved: JSON.stringify(held.present), sent: [] };
  if (isOurs(held.sent, design)) return { ...held, revision, saved, sent: [] };
  const nothingMine = JSON.stringify(held.present) === held.saved;
  return nothingMine ? reduce(held, { kind: "theirs", revision, design }) : held;
}

/** What the server has is a save of mine whose reply was never heard. */
export const isOurs = (sent: string[], design: BoatDesign): boolean =>
  sent.some((text) => same(JSON.parse(text), design));

function heldIn(variantId: string): History | null {
  try {
    const held = JSON.parse(sessionStorage.getItem(keyOf(variantId)) ?? "null") as History | null;
    return held && { ...held, sent: held.sent ?? [], apart: held.apart ?? false };
  } catch {
    return null;
  }
}
