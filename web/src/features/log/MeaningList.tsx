import type { LogMeaning } from "../../api/client";
import { useSay } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";

/** The likely causes behind the readings, in their order, with their odds and the one check. */
export function MeaningList(props: {
  meanings: LogMeaning[];
  busy: boolean;
  onClock: (ahead_s: number) => void;
}) {
  const { meanings, busy, onClock } = props;
  const say = useSay();
  if (meanings.length === 0) return null;
  return (
    <section aria-label="What it may be" aria-busy={busy} className="mt-1 grid gap-x-6 gap-y-1 log-meanings">
      {meanings.map((meaning) => (
        <details
          key={meaning.of ?? "boat"}
          className="min-w-0 text-[13px]"
          data-meaning={meaning.of ?? "boat"}
        >
          <summary className="cursor-pointer truncate">
            <b>{meaning.name}</b>: {meaning.ranked[0]?.label}
            <span className="text-muted">
              {" "}
              {say("fraction", meaning.ranked[0]?.odds ?? 0)}
              {meaning.either && meaning.ranked[1] && `, or ${meaning.ranked[1].label}`}
            </span>
          </summary>
          <ol className="m-0 my-1 list-none p-0">
            {meaning.ranked.map((one) => (
              <li key={one.condition} className="mb-1">
                <span className="tabular inline-block w-[5ch] text-right">{say("fraction", one.odds)}</span>{" "}
                {one.label}.{" "}
                {one.clock_ahead_s != null && (
                  <LinkButton onClick={() => onClock(one.clock_ahead_s ?? 0)}>set the clock right</LinkButton>
                )}
                {one.check !== "none" && <span className="text-muted"> Check: {one.check}.</span>}
                {one.against.length > 0 && (
                  <span className="text-muted"> Against it: {one.against.join(", ")}.</span>
                )}
              </li>
            ))}
          </ol>
        </details>
      ))}
    </section>
  );
}
