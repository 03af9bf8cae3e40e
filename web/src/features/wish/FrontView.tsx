import { useState } from "react";
import type { WishFront, WishPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay, useUnits } from "../../kit/preferences";
import { Alarm } from "../../kit/ui/Alarm";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Heading } from "../../kit/ui/Page";
import { Told } from "../../kit/ui/Told";
import { ToldList } from "../../kit/ui/ToldList";
import { Head, View } from "../../kit/ui/View";
import { shown } from "../../kit/units";
import { DeckSketch } from "./DeckSketch";
import { type Axis, FrontChart } from "./FrontChart";
import { PointCard } from "./PointCard";
import { type Chosen, MARKS, shownPoint } from "./points";

interface Props {
  front: WishFront;
  picture: WishPicture | undefined;
  stale: boolean;
  run: { busy: boolean; progress: number; error: Error | null; retry: () => void; stop: () => void };
  chosen: Chosen | null;
  onChoose: (point: Chosen) => void;
}

const AXES = [
  ["far", "how far"],
  ["surely", "how surely"],
] as const;

/** The front, and the boat on it that is chosen; a slider walks along it. */
export function FrontView({ front, picture, stale, run, chosen, onChoose }: Props) {
  const say = useSay();
  const [axis, setAxis] = useState<Axis>("far");
  const at = shownPoint(front, chosen);
  const point = front.points[at];
  const pick = (index: number) => {
    const next = front.points[index];
    if (next) onChoose({ cost: next.cost, stretch: next.stretch });
  };
  return (
    <View
      label="Boats that do it"
      stale={stale}
      busy={run.busy}
      data-front={front.first_look || stale || run.busy ? "first" : "whole"}
    >
      <Heading title="Boats that do it" in={`what it costs against how ${axis}; each mark is a whole boat`} />
      <ToldList lines={front.told} name="wish" />
      {run.busy && (
        <p className="m-0 flex items-baseline gap-2 text-[13px] text-muted" data-progress>
          all boats for this wish
          <progress
            className="h-[8px] w-[120px] accent-[var(--water)]"
            max={1}
            value={run.progress}
            aria-label="All boats for this wish"
          />
          {say("fraction", run.progress)}
          <LinkButton onClick={run.stop}>stop</LinkButton>
        </p>
      )}
      {run.error && (
        <Alarm>
          {run.error.message} <LinkButton onClick={run.retry}>try again</LinkButton>
        </Alarm>
      )}
      <NearWishes front={front} />
      {point && (
        <>
          <FrontChart front={front} at={at} axis={axis} onChoose={pick} />
          <div className="mb-1 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
            <span className="flex w-full gap-2">
              <span className="flex gap-2 pr-3" role="group" aria-label="Cost against">
                {AXES.map(([key, words]) => (
                  <button
                    key={key}
                    type="button"
                    className={key === axis ? "font-bold" : "link"}
                    aria-pressed={key === axis}
                    onClick={() => setAxis(key)}
                  >
                    {words}
                  </button>
                ))}
              </span>
              <label className="flex flex-1 items-center gap-2">
                along it
                <input
                  type="range"
                  className="flex-1 accent-[var(--water)]"
                  min={0}
                  max={front.points.length - 1}
                  value={at}
                  aria-valuetext={`${say("money", point.cost)}, ${say("fraction", point.stretch)} of the wish`}
                  onChange={(event) => pick(Number(event.target.value))}
                />
              </label>
            </span>
            {(Object.keys(MARKS) as (keyof typeof MARKS)[]).map((mark) => {
              const index = front.points.findIndex((item) => item.marks.includes(mark));
              return (
                index >= 0 && (
                  <LinkButton key={mark} onClick={() => pick(index)}>
                    {MARKS[mark]}
                  </LinkButton>
                )
              );
            })}
          </div>
          <div className="grid min-h-[210px] grid-cols-[170px_1fr] gap-4 max-[720px]:grid-cols-1">
            <div className="h-[230px]">
              {picture && <DeckSketch picture={picture} deck={point.deck} label="The deck, bow up" />}
            </div>
            <PointCard point={point} />
          </div>
        </>
      )}
      <Assumptions front={front} />
      <p className="m-0 mt-2 text-[13px] text-muted">
        {front.looked_at.toLocaleString("en-GB")} boats put together, {front.cut.toLocaleString("en-GB")} cut
        by what energy alone allows or by another that failed, {front.run.toLocaleString("en-GB")} run through
        their days{front.first_look ? ": a first look, the whole follows" : ""}. Prices are invented coins.
      </p>
    </View>
  );
}

/** What of the wish could be had instead. */
function NearWishes({ front }: { front: WishFront }) {
  const { apply } = useDesign();
  const say = useSay();
  if (front.near.length === 0 && !front.turn) return null;
  return (
    <section aria-label="Nearest wishes" data-near className="mb-1">
      <h2 className="m-0 mb-0.5 text-[14.5px]">What can be had instead</h2>
      {front.turn && (
        <p className="m-0 mb-1">
          <Told sentence={front.turn.told} />
        </p>
      )}
      <ul className="m-0 list-none p-0">
        {front.near.map((near) => (
          <li key={near.key} className="flex flex-wrap items-baseline gap-x-3" data-near-wish={near.key}>
            <span>
              <Told sentence={near.told} />
              {near.key !== "money" && <span className="text-muted">, {say("money", near.cost)}</span>}
            </span>
            <LinkButton
              onClick={() => apply((current) => withValue(current, "/wish", near.wish), `wish ${near.key}`)}
            >
              wish that
            </LinkButton>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What the choice hangs on, and what would settle it. */
function Assumptions({ front }: { front: WishFront }) {
  const units = useUnits();
  if (front.assumptions.length === 0) return null;
  return (
    <section aria-label="What the choice hangs on" className="mt-2">
      <h2 className="m-0 mb-0.5 text-[14.5px]">What the cheapest hangs on</h2>
      <table className="plain-table word-table max-w-[860px]">
        <Head of={["if", "it reaches", "then", "settled by"]} />
        <tbody>
          {front.assumptions.map((item) => (
            <tr key={item.key} data-assumption={item.key}>
              <td>
                <Told sentence={item.label} />
              </td>
              <td>
                <b>{shown(item.reach, units)}</b>
              </td>
              <td>
                <Told sentence={item.told} />
              </td>
              <td>
                <Told sentence={item.settles} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
