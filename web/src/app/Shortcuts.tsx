import { usePreferences } from "../kit/preferences";
import { Window } from "../kit/ui/Window";
import { STATIONS } from "./stations";

const KEYS = [
  ["0", STATIONS[0]?.label ?? ""],
  [
    `1 to ${STATIONS.length - 1}`,
    STATIONS.slice(1)
      .map((station) => station.label)
      .join(", "),
  ],
  ["[  ]", "an hour back, an hour forward on the Day"],
  [",  .", "turn the boat 5° to port, to starboard"],
  ["k", "keep a variant"],
  ["u  U", "undo, redo"],
  ["?", "this list"],
] as const;

/** The keys, and the switch that turns them off. */
export function Shortcuts({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const { shortcuts, change } = usePreferences();
  return (
    <Window open={open} onOpen={onOpen} title="Keys" width={420} closing="Close">
      <dl className="m-0 mb-3 grid grid-cols-[70px_1fr] gap-y-1.5">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="font-bold">{key}</dt>
            <dd className="m-0">{what}</dd>
          </div>
        ))}
      </dl>
      <p className="text-muted">
        Every handle on a picture also moves with the arrow keys once it is in focus.
      </p>
      <label className="mb-4 flex items-center gap-2">
        <input
          type="checkbox"
          checked={shortcuts}
          onChange={(event) => change({ shortcuts: event.target.checked })}
        />
        Keys are on
      </label>
    </Window>
  );
}
