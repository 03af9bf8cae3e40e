import { useEffect, useRef, useState } from "react";
import { type BoatDesign, client, dataOf, Refused } from "../../api/client";
import { useDesign } from "../../app/design";
import { useUnits } from "../../app/preferences";
import { withValue } from "../pointer";
import { fieldText, type Kind, unitOf } from "../units";

const PAUSE_MS = 450;
const BLUR_MS = 220; // long enough for the click that took the focus to land before a message moves the page

/**
 * Text that is not yet a valid value: it stays in its field over a reload, with what is wrong beside it, and
 * never enters the document.
 */
export function useFieldDraft(
  pointer: string,
  read: (text: string) => { value: unknown } | { problem: string },
  kind?: Kind,
  write: (design: BoatDesign, value: unknown) => BoatDesign = (design, value) =>
    withValue(design, pointer, value),
) {
  const { variant, design, apply } = useDesign();
  const units = useUnits();
  const key = `parhelion.draft.${variant.id}.${pointer}`;
  const [draft, setDraft] = useState<string | null>(() => sessionStorage.getItem(key));
  const [problem, setProblem] = useState<string | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const asked = useRef(0);

  useEffect(() => {
    if (draft === null) sessionStorage.removeItem(key);
    else sessionStorage.setItem(key, draft);
  }, [draft, key]);
  // A kept draft says after a reload what is wrong with it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the field appears
  useEffect(() => {
    if (draft !== null) void commit(draft);
    return () => {
      if (timer.current) clearTimeout(timer.current);
    };
  }, []);

  async function commit(text: string) {
    if (timer.current) clearTimeout(timer.current);
    const turn = ++asked.current;
    const found = read(text);
    if ("problem" in found) {
      setProblem(found.problem);
      return;
    }
    try {
      await dataOf(client.POST("/api/check", { body: { design: write(design, found.value) } }));
      if (turn !== asked.current) return;
      apply((current) => write(current, found.value), pointer);
      setDraft(null);
      setProblem(null);
    } catch (error) {
      if (turn !== asked.current) return;
      if (!(error instanceof Refused)) {
        setProblem("The server did not answer; your entry is kept here.");
        return;
      }
      const about = error.problems.find((item) => item.field === `/design${pointer}`) ?? error.problems[0];
      if (about && kind && about.limit != null && about.relation) {
        const unit = unitOf(kind, units)[0];
        const limit = `${fieldText(about.limit, kind, units)}${unit && ` ${unit}`}`;
        const said =
          about.code === "out_of_reach" ? about.message : `“${text.trim()}” is outside what this can be.`;
        setProblem(`${said} Accepted: ${about.relation.replace("{0}", limit)}.`);
        return;
      }
      setProblem(
        `${about?.message ?? "This is not accepted."}${about?.accepted ? ` Accepted: ${about.accepted}.` : ""}`,
      );
    }
  }

  return {
    draft,
    problem,
    type: (text: string) => {
      setDraft(text);
      asked.current += 1;
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(() => void commit(text), PAUSE_MS);
    },
    settle: () => {
      if (draft !== null) void commit(draft);
    },
    leave: () => {
      if (draft === null) return;
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(() => void commit(draft), BLUR_MS);
    },
    abandon: () => {
      if (timer.current) clearTimeout(timer.current);
      asked.current += 1;
      setDraft(null);
      setProblem(null);
    },
  };
}
