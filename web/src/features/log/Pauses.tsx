import type { LogOuting } from "../../api/client";
import { useLogbook } from "../../kit/logbook";

/** Times in which she lay still; one that is open ends with a button. */
export function Pauses({ outing: shown, large }: { outing: LogOuting; large?: boolean }) {
  const { changeOuting, asChanged } = useLogbook();
  const onPut = (change: Partial<LogOuting>) => changeOuting(shown, change);
  const outing = asChanged(shown);
  const pauses = outing.pauses ?? [];
  const look = large ? "btn mt-2 min-h-[44px] px-5" : "link block";
  const open = pauses.find((pause) => pause.ended_at == null);
  const now = () => new Date().toISOString();
  return (
    <div className="mt-1 text-[13.5px]">
      {pauses.map((pause, index) => (
        <p key={pause.began_at} className="m-0 flex justify-between gap-3">
          <span>
            paused {clockOf(pause.began_at)}
            {pause.ended_at != null && ` to ${clockOf(pause.ended_at)}`}
          </span>
          <button
            type="button"
            className="cross"
            aria-label={`no pause at ${clockOf(pause.began_at)}`}
            onClick={() => onPut({ pauses: pauses.filter((_, k) => k !== index) })}
          >
            ×
          </button>
        </p>
      ))}
      {open ? (
        <button
          type="button"
          className={look}
          onClick={() =>
            onPut({ pauses: pauses.map((pause) => (pause === open ? { ...pause, ended_at: now() } : pause)) })
          }
        >
          go on
        </button>
      ) : (
        outing.ended_at == null && (
          <button
            type="button"
            className={look}
            onClick={() => onPut({ pauses: [...pauses, { began_at: now(), ended_at: null }] })}
          >
            pause
          </button>
        )
      )}
    </div>
  );
}

const clockOf = (at: string) =>
  new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
