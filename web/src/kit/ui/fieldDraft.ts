import { useEffect, useSyncExternalStore } from "react";
import type { Refused } from "../../api/client";
import { useDesign } from "../document";
import { type Reading, refusal } from "../drafts";
import { useUnits } from "../preferences";
import { fieldText, type Kind, unitOf } from "../units";

/**
 * The draft of one entry: text that is not yet a valid value stays in its field, with what is wrong beside it,
 * and never enters the document.
 */
export function useFieldDraft(pointer: string, read: (text: string) => Reading, kind?: Kind) {
  const { drafts } = useDesign();
  const units = useUnits();
  const name = drafts.name(pointer);
  const draft = useSyncExternalStore(drafts.subscribe, () => drafts.text(name));
  const problem = useSyncExternalStore(drafts.subscribe, () => drafts.problem(name));

  /** A bound is told in the unit that the person reads. */
  function tell(refused: Refused, at: string, text: string): string {
    const about = refused.problems.find((item) => item.field === `/design${at}`) ?? refused.problems[0];
    if (!about || !kind || about.limit == null || !about.relation) return refusal(refused, at);
    const unit = unitOf(kind, units)[0];
    const limit = `${fieldText(about.limit, kind, units)}${unit && ` ${unit}`}`;
    const said =
      about.code === "out_of_reach" ? about.message : `“${text.trim()}” is outside what this can be.`;
    return `${said} Accepted: ${about.relation.replace("{0}", limit)}.`;
  }

  // A draft met again, after a reload or on another page, is told of; one whose field goes is committed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the field appears
  useEffect(() => {
    drafts.meet(name, read, tell);
    return () => drafts.settle(name);
  }, [drafts, name]);

  return {
    draft,
    problem,
    type: (text: string) => drafts.type(name, text, read, tell),
    settle: () => drafts.settle(name),
    leave: () => drafts.leave(name),
    abandon: () => drafts.abandon(name),
  };
}
