import { useState } from "react";
import { type Refit, refitted, type WiringChoice } from "../../api/client";
import { useStudy } from "../../asking/live";
import { useWork } from "../../asking/work";
import { Progress } from "../../kit/chart/Progress";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { Alarm } from "../../kit/ui/Alarm";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Told } from "../../kit/ui/Told";

import { OwnControllers } from "./ControllerList";

const firstWords = (choices: WiringChoice[] | undefined) =>
  choices && choices.length > 0
    ? ` Within the limits, at the least price: ${choices.map((c) => `${c.place} ${wired(c)}`).join("; ")}.`
    : "";

const wired = (choice: WiringChoice) =>
  `${choice.series > 1 ? `${choice.series} in series` : "side by side"}, ${choice.boxes} × ${choice.controller}`;

/** Lets the program look for wirings, and puts the one that is chosen on the boat. */
export function ProposeFields() {
  const { design, apply } = useDesign();
  const [asked, setAsked] = useState(false);
  const {
    data: run,
    busy: isFetching,
    progress,
    error,
    retry,
    stop,
  } = useWork("proposals", [{ name: "", design }], asked);
  const data = run;
  const first = useStudy("strings/first", {}, asked && isFetching);
  const say = useSay();
  if (!asked || (!data && !isFetching && !error))
    return (
      <>
        <OwnControllers />
        <button type="button" className="btn" data-main onClick={() => setAsked(true)}>
          Propose a wiring
        </button>
      </>
    );
  if (error)
    return (
      <Alarm>
        {error.message} <LinkButton onClick={retry}>try again</LinkButton>
      </Alarm>
    );
  return (
    <div aria-busy={isFetching} data-proposals>
      <p className="m-0 mb-1 text-[13px] text-muted" role="status">
        {isFetching
          ? `Weighing the arrangements in this boat's shade …${firstWords(first.data)}`
          : `${data?.legal} of ${data?.tried} arrangements hold the limits; as wired now ${say("energy_wh", data?.now_wh ?? 0)} on the mean day, ${say("energy_wh", data?.now_year_wh ?? 0)} a year.`}
      </p>
      {isFetching && <Progress what="Arrangements" share={progress} stop={stop} />}
      {(data?.unwired.length ?? 0) > 0 && (
        <p className="m-0 mb-1 text-[13px] text-alarm">
          ▲ No controller of the list suits {data?.unwired.join(", ")}: its volts do not suit the bank. More
          in series, or another bank for it.
        </p>
      )}
      {data?.volts.map((item) => (
        <section key={item.group_id} className="mb-2" data-volts={item.group_id}>
          <p className="m-0 mb-1 text-[13px]">
            <b>
              ▲ {item.place}: <Told sentence={item.told} />
            </b>{" "}
            {item.options.length ? "Ways out:" : "No way out on this list: other panels or another bank."}
          </p>
          {item.options.map((option) => (
            <div
              key={option.key}
              className="mb-1 rounded-[6px] border border-hairline px-2 py-1"
              data-volts-option={option.key}
            >
              <span className="block">{option.label}</span>
              <span className="block text-[13px] text-muted">
                {say("energy_wh", option.year_wh)} a year, {say("energy_wh", option.gain_wh, true)} ·{" "}
                {say("money", option.price)}
              </span>
              <span className="block text-[13px]">
                <Told sentence={option.risk} />
              </span>
              {option.refit && (
                <LinkButton
                  className="text-[13px]"
                  aria-label={`Use it: ${option.label}`}
                  onClick={() =>
                    option.refit &&
                    apply((boat) => refitted(boat, option.refit as Refit), `volts-${option.key}`)
                  }
                >
                  use it
                </LinkButton>
              )}
            </div>
          ))}
        </section>
      ))}
      {data?.proposals.map((item) => (
        <div
          key={item.key}
          className="mb-1 rounded-[6px] border border-hairline px-2 py-1"
          data-proposal={item.key}
        >
          <span className="flex justify-between gap-2">
            <b>{item.label}</b>
            <b className="tabular">{say("energy_wh", item.day_wh)}</b>
          </span>
          <span className="block text-[13px] text-muted">
            {say("energy_wh", item.year_wh)} a year · {item.boxes} {item.boxes === 1 ? "box" : "boxes"} ·{" "}
            {item.wires} pairs of wires · {say("money", item.price)}
          </span>
          <span className="block text-[13px]">
            <Told sentence={item.reason} />
          </span>
          <ul className="m-0 list-none p-0 text-[12.5px] text-muted">
            {item.choices.map((choice) => (
              <li key={choice.group_id}>
                {choice.place}: {wired(choice)}
              </li>
            ))}
          </ul>
          {item.current ? (
            <span className="text-[13px] font-bold">as it is wired</span>
          ) : (
            <LinkButton
              className="text-[13px]"
              aria-label={`Use it: ${item.label}`}
              onClick={() => apply((boat) => refitted(boat, item.refit), `propose-${item.key}`)}
            >
              use it
            </LinkButton>
          )}
        </div>
      ))}
    </div>
  );
}
