import { useState } from "react";
import type { HingeAdvice } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Told } from "../../kit/ui/Told";
import { Head } from "../../kit/ui/View";
import { clockText } from "../../kit/units";
import { withHinge } from "./parts";
import { TiltMap } from "./TiltMap";

const LEAST_M = 90; // of miles won, before they are worth a word

/** For each place with a hinge: every angle by the hour, and whether tending it is worth doing. */
export function TiltView({ chosen, onChoose }: { chosen: string | null; onChoose: (id: string) => void }) {
  const { design, apply, entries } = useDesign();
  const { data, stale, error, retry } = useStudy("array/tilt");
  if (!data) return <Waiting error={error} retry={retry} what="Tilt advice" />;
  const hinge = data.hinges.find((item) => item.place_id === chosen) ?? data.hinges[0];
  if (!hinge)
    return (
      <div className="m-auto max-w-[46ch] text-center text-muted">
        <p className="m-0 mb-2">
          No place has a hinge that gives in this state. A hinge lets a wing, a rail panel or an arch follow
          the sun; here you see what that would win.
        </p>
        {data.fixed.map((id) => {
          const index = (design.places ?? []).findIndex((place) => place.id === id);
          return (
            <p key={id} className="m-0">
              <LinkButton onClick={() => apply((d) => withHinge(d, entries, index, true), "hinge")}>
                give {design.places?.[index]?.name} a hinge
              </LinkButton>
            </p>
          );
        })}
      </div>
    );
  return (
    <div
      className={`flex min-h-0 flex-1 flex-col overflow-y-auto transition-opacity ${stale ? "opacity-75" : ""}`}
      tabIndex={0}
      role="region"
      aria-label="Tilt advice"
      data-tilt={hinge.place_id}
    >
      {data.hinges.length > 1 && (
        <p className="m-0 mb-1 flex flex-wrap gap-1.5">
          {data.hinges.map((item) => (
            <button
              key={item.place_id}
              type="button"
              className="state-tab"
              aria-pressed={item.place_id === hinge.place_id}
              onClick={() => onChoose(item.place_id)}
            >
              {item.name}
            </button>
          ))}
        </p>
      )}
      <p className="m-0 mb-1 text-[15px] font-bold" data-verdict>
        <Told sentence={hinge.verdict} />
      </p>
      <TiltHours hinge={hinge} />
      <Ways hinge={hinge} measure={data.measure} />
      <Seasons hinge={hinge} />
    </div>
  );
}

/** The map of angles, and what the moment under the pointer says. */
function TiltHours({ hinge }: { hinge: HingeAdvice }) {
  const { apply, design } = useDesign();
  const say = useSay();
  const [step, setStep] = useState<number | null>(null);
  const at = step ?? hinge.noon_step;
  const best = hinge.best_deg[at];
  const index = (design.places ?? []).findIndex((place) => place.id === hinge.place_id);
  const state = design.plan.state ?? "under_way";
  const tilted = design.places?.[index]?.stands?.[state]?.how === "tilted";
  const pointer = `/places/${index}/${tilted ? `stands/${state}/tilt_deg` : "tilt_deg"}`;
  return (
    <>
      <TiltMap hinge={hinge} step={at} onStep={setStep} />
      <p className="m-0 mb-1 flex flex-wrap items-baseline gap-x-4 text-[13px]" data-tilt-readout>
        <b className="tabular text-[14px]">{clockText(hinge.clock_min[at] ?? 0)}</b>
        {best == null ? (
          <span>dark</span>
        ) : (
          <>
            <span>
              best at <b>{say("angle_deg", best)}</b>, {say("power_w", hinge.best_w[at] ?? 0)}
            </span>
            <span>
              as it stands, {say("angle_deg", hinge.tilt_deg)}: {say("power_w", hinge.standing_w[at] ?? 0)}{" "}
              <b>({say("power_w", hinge.gain_w[at] ?? 0, true)} to win)</b>
            </span>
            {Math.abs(best - hinge.tilt_deg) > 0.01 && (
              <LinkButton onClick={() => apply((d) => withValue(d, pointer, best), "tilt")}>
                set it to {say("angle_deg", best)}
              </LinkButton>
            )}
          </>
        )}
        {hinge.headings_deg.length > 1 && (
          <span className="text-muted">the mean of {hinge.headings_deg.length} headings</span>
        )}
      </p>
    </>
  );
}

function Ways({ hinge, measure }: { hinge: HingeAdvice; measure: string }) {
  const say = useSay();
  const settings = hinge.settings.map(
    (part) =>
      `${clockText(part.from_min)} to ${clockText(part.to_min)} at ${say("angle_deg", part.tilt_deg)}`,
  );
  return (
    <table className="plain-table" data-ways>
      <Head
        of={[
          "what is done with it",
          "the boat harvests",
          "against flat",
          measure === "range" ? "range" : "miles a day",
        ]}
      />
      <tbody>
        {hinge.ways.map((way) => (
          <tr key={way.key} data-way={way.key}>
            <td>
              {way.chosen ? <b>{way.label}, your plan</b> : way.label}
              {way.key === "thrice" && settings.length > 0 && (
                <span className="block text-[12.5px] text-muted">{settings.join(", ")}</span>
              )}
            </td>
            <td>
              <b>{say("energy_wh", way.day_wh)}</b>
            </td>
            <td>
              {way.key === "flat"
                ? "–"
                : `${way.gain_wh >= 0 ? "+" : "−"}${say("energy_wh", Math.abs(way.gain_wh))}`}
            </td>
            <td>
              {way.miles_m == null ? "the sun keeps up" : say("distance_m", way.miles_m)}
              {way.gain_m != null && Math.abs(way.gain_m) > LEAST_M && (
                <span className="whitespace-nowrap text-[12.5px] text-muted">
                  {" "}
                  ({say("distance_m", way.gain_m, true)})
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Seasons({ hinge }: { hinge: HingeAdvice }) {
  const say = useSay();
  return (
    <>
      <h2 className="mt-2 mb-0 text-[13.5px] font-bold text-muted">
        By season, under the same sky: what {hinge.name} gives a day
      </h2>
      <table className="plain-table" data-seasons>
        <Head of={["the 21st of", "flat", "left at its best", "three times", "followed"]} />
        <tbody>
          {hinge.seasons.map((season) => (
            <tr key={season.label}>
              <td>{season.label}</td>
              <td>{say("energy_wh", season.flat_wh)}</td>
              <td>
                {say("energy_wh", season.best_wh)}
                <span className="text-[12.5px] text-muted"> at {say("angle_deg", season.best_tilt_deg)}</span>
              </td>
              <td>{say("energy_wh", season.thrice_wh)}</td>
              <td>
                <b>{say("energy_wh", season.followed_wh)}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
