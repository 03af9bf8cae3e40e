import type { BoatDesign, StringsPicture } from "../../api/client";
import { fresh } from "../../kit/entries";

type Board = StringsPicture["board"];
type Panel = Board["loose"][number];

/** Where a panel goes: into a string, into a new one on a controller, or off. */
export type Goal = { kind: "string"; id: string } | { kind: "box"; id: string } | { kind: "loose" };

export const sameGoal = (a: Goal, b: Goal) => JSON.stringify(a) === JSON.stringify(b);

const same = (a: Panel, b: Panel) => a.group_id === b.group_id && a.number === b.number;

/** The wiring as the board shows it with one panel moved: from then on it is wired by hand. */
export function withPanelMoved(design: BoatDesign, board: Board, panel: Panel, goal: Goal): BoatDesign {
  const strings = board.strings.map((string) => {
    const others = string.panels.filter((other) => !same(other, panel));
    const here = goal.kind === "string" && goal.id === string.id;
    return { ...string, panels: here ? [...others, panel] : others };
  });
  if (goal.kind === "box") strings.push({ id: fresh("string"), controller_id: goal.id, panels: [panel] });
  return {
    ...design,
    strings: strings
      .filter((string) => string.panels.length > 0)
      .map((string) => ({
        id: string.id.includes("/") ? fresh("string") : string.id,
        controller_id: string.controller_id,
        panels: string.panels.map(({ group_id, number }) => ({ group_id, number })),
      })),
  };
}

export const againByGroups = (design: BoatDesign): BoatDesign => ({ ...design, strings: [] });
