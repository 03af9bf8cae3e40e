import type { ArrayAdvice } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";

/** What the boat is doing, and what she would harvest this day doing the others. */
export function StateBar({ advice }: { advice: ArrayAdvice | undefined }) {
  const { design, apply, entries } = useDesign();
  const say = useSay();
  const now = design.plan.state ?? "under_way";
  return (
    <fieldset className="m-0 mb-1 flex flex-wrap gap-1 border-0 p-0" data-states>
      <legend className="sr-only">The boat is</legend>
      {entries.options("/plan/state").map(([state, words]) => {
        const found = advice?.states.find((item) => item.state === state);
        return (
          <button
            key={state}
            type="button"
            className="state-tab"
            aria-pressed={state === now}
            data-state-choice={state}
            onClick={() => apply((d) => withValue(d, "/plan/state", state), "state")}
          >
            {words.replace(/^(at|on) the /, "")}
            <b className="tabular ml-1.5">{found && say("energy_wh", found.day_wh)}</b>
          </button>
        );
      })}
    </fieldset>
  );
}
