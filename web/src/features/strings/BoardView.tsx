import { useState } from "react";
import type { BoatDesign, StringsPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { View } from "../../kit/ui/View";

import { againByGroups, type Goal, sameGoal, withPanelMoved } from "./board";

type Board = StringsPicture["board"];
type Panel = Board["loose"][number];
type Box = NonNullable<BoatDesign["controllers"]>[number];

const keyOf = (panel: Panel) => `${panel.group_id}/${panel.number}`;

/** Every panel in its string, every string on its controller: dragged, or moved by the list below. */
export function BoardView({ picture }: { picture: StringsPicture }) {
  const { design, apply, entries } = useDesign();
  const { board } = picture;
  const [held, setHeld] = useState<string | null>(null);
  const [over, setOver] = useState<Goal | null>(null);
  const every = [...board.strings.flatMap((string) => string.panels), ...board.loose];
  const chosen = every.find((panel) => keyOf(panel) === held);
  const boxes = design.controllers ?? [];
  const last = board.strings.length === 1 && board.strings[0]?.panels.length === 1;
  function move(goal: Goal, key = held) {
    const panel = every.find((item) => keyOf(item) === key);
    setOver(null);
    if (!panel || (goal.kind === "loose" && last)) return;
    apply((current) => withPanelMoved(current, board, panel, goal), "board");
  }
  const zone = (goal: Goal) => ({
    "data-over": over !== null && sameGoal(over, goal) ? "" : undefined,
    onDragOver: (event: React.DragEvent) => {
      event.preventDefault();
      setOver(goal);
    },
    onDragLeave: () => setOver(null),
    onDrop: (event: React.DragEvent) => {
      event.preventDefault();
      move(goal, event.dataTransfer.getData("text/plain"));
    },
  });
  if (every.length === 0)
    return <p className="m-auto text-muted">No panels to wire yet. Place some at the Array.</p>;
  return (
    <div className="flex min-h-0 flex-1 flex-col" data-board>
      <p className="m-0 mb-2 flex flex-wrap items-baseline gap-x-3 text-[13px] text-muted">
        {board.by_hand
          ? "Wired by hand."
          : "Wired by groups. Drag a panel into another string, and the wiring is yours."}
        {board.by_hand && (
          <LinkButton onClick={() => apply(againByGroups, "board")}>wire by groups again</LinkButton>
        )}
        <LinkButton onClick={() => apply((now) => entries.withNew(now, "/controllers"), "board")}>
          add a controller
        </LinkButton>
      </p>
      <View label="Strings on their controllers" className="pr-1">
        {boxes.map((box) => (
          <OneBox key={box.id} box={box} board={board} zone={zone} held={held} onHold={setHeld} />
        ))}
        <section
          {...zone({ kind: "loose" })}
          className={`mb-2 rounded-[8px] border border-dashed px-3 py-2 data-[over]:bg-[var(--water-soft)] ${board.loose.length > 0 ? "border-alarm" : "border-edge"}`}
          data-loose
        >
          <h2 className={`m-0 text-[14px] font-bold ${board.loose.length > 0 ? "text-alarm" : ""}`}>
            {board.loose.length > 0 ? "▲ Not connected: these harvest nothing" : "Not connected: none"}
          </h2>
          <Chips panels={board.loose} held={held} onHold={setHeld} />
        </section>
      </View>
      <p className="m-0 flex min-h-[34px] flex-wrap items-center gap-2 py-1 text-[13px]">
        {chosen ? (
          <label className="flex items-center gap-2">
            <span>
              Move <b>{chosen.label}</b> to
            </span>
            <select
              className="h-[28px] rounded-[5px] border border-edge bg-field px-1 text-ink"
              aria-label={`Move ${chosen.label} to`}
              value=""
              onChange={(event) => move(JSON.parse(event.target.value) as Goal)}
            >
              <option value="">choose …</option>
              {board.strings
                .filter((string) => !string.panels.some((panel) => keyOf(panel) === held))
                .map((string) => (
                  <option key={string.id} value={JSON.stringify({ kind: "string", id: string.id })}>
                    the string of {string.panels.map((panel) => panel.label).join(", ")}
                  </option>
                ))}
              {boxes.map((box) => (
                <option key={box.id} value={JSON.stringify({ kind: "box", id: box.id })}>
                  a new string on {box.name}
                </option>
              ))}
              {!last && <option value={JSON.stringify({ kind: "loose" })}>not connected</option>}
            </select>
          </label>
        ) : (
          <span className="text-muted">Choose a panel to move it by list.</span>
        )}
      </p>
    </div>
  );
}

interface OneBoxProps {
  box: Box;
  board: Board;
  zone: (goal: Goal) => object;
  held: string | null;
  onHold: (key: string) => void;
}

/** A controller with its strings, and room for one more. */
function OneBox({ box, board, zone, held, onHold }: OneBoxProps) {
  const { design, apply, entries } = useDesign();
  const strings = board.strings.filter((string) => string.controller_id === box.id);
  const used = strings.length > 0 || (design.panels ?? []).some((group) => group.controller_id === box.id);
  return (
    <section className="mb-2 rounded-[8px] border border-hairline px-3 py-2" data-board-box={box.id}>
      <h2 className="m-0 flex items-baseline gap-2 text-[14px] font-bold">
        {(box.count ?? 1) > 1 && `${box.count} × `}
        {box.name}
        <span className="text-[13px] font-normal text-muted">
          {entries.words("/controllers/0/kind")[box.kind ?? "mppt"]}
        </span>
        {!used && (
          <LinkButton
            className="ml-auto text-[13px]"
            onClick={() => apply((now) => entries.withNew(now, "/controllers"), "board")}
          >
            remove
          </LinkButton>
        )}
      </h2>
      {strings.map((string) => (
        <div
          key={string.id}
          {...zone({ kind: "string", id: string.id })}
          className="mt-1 rounded-[6px] bg-field px-2 py-1 data-[over]:bg-[var(--water-soft)]"
          data-board-string={string.id}
        >
          <Chips panels={string.panels} held={held} onHold={onHold} joined />
        </div>
      ))}
      <div
        {...zone({ kind: "box", id: box.id })}
        className="mt-1 rounded-[6px] border border-dashed border-edge px-2 py-0.5 text-[12.5px] text-muted data-[over]:bg-[var(--water-soft)]"
        data-board-new={box.id}
      >
        drop here for a new string
      </div>
    </section>
  );
}

/** Panels as things to take hold of; those of a string hang together. */
function Chips(props: {
  panels: Panel[];
  held: string | null;
  onHold: (key: string) => void;
  joined?: boolean;
}) {
  const say = useSay();
  return (
    <span className="flex flex-wrap items-center gap-y-1">
      {props.panels.map((panel, i) => (
        <span key={keyOf(panel)} className="flex items-center">
          {props.joined && i > 0 && <span aria-hidden="true" className="inline-block h-[2px] w-3 bg-ink" />}
          <button
            type="button"
            draggable
            data-chip={keyOf(panel)}
            aria-pressed={props.held === keyOf(panel)}
            className={`cursor-grab rounded-[5px] border px-2 py-0.5 text-[13px] text-ink ${props.joined ? "" : "mr-1"} ${props.held === keyOf(panel) ? "border-ink bg-[var(--dog-far)]" : "border-edge bg-page"}`}
            onClick={() => props.onHold(keyOf(panel))}
            onDragStart={(event) => {
              event.dataTransfer.setData("text/plain", keyOf(panel));
              props.onHold(keyOf(panel));
            }}
          >
            {panel.label} <span className="text-muted">{say("power_w", panel.nameplate_w)}</span>
          </button>
        </span>
      ))}
    </span>
  );
}
