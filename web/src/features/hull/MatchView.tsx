import type { MatchPicture } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay, useUnits } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Head } from "../../kit/ui/View";
import { type Kind, shown } from "../../kit/units";
import { OpenWaterChart } from "./OpenWaterChart";

const PROPELLER = "/drives/0/propeller";
const FULL_IS: Record<string, string> = {
  labours: "the current limit ends it",
  overspeeds: "the volts end it",
  rated: "the rated watts end it",
};

/** Motor and propeller together. */
export function MatchView() {
  const { apply, entries } = useDesign();
  const { data: picture, stale, error, retry } = useStudy("hull/match");
  if (!picture) return <Waiting error={error} retry={retry} what="The match" />;
  if (picture.missing)
    return (
      <div className="m-auto max-w-[46ch] text-center">
        <p className="text-muted">{picture.missing}</p>
        <button
          type="button"
          className="btn"
          data-main
          onClick={() => apply((now) => withValue(now, PROPELLER, entries.begun(PROPELLER)), "propeller")}
        >
          Start from a usual propeller
        </button>
      </div>
    );
  return (
    <div className={`flex min-h-0 flex-1 flex-col overflow-y-auto ${stale ? "opacity-75" : ""}`}>
      <div className="h-[250px] shrink-0">
        <OpenWaterChart picture={picture} />
      </div>
      <Working picture={picture} />
      {picture.better && <Better picture={picture} />}
    </div>
  );
}

/** Revolutions, shaft watts, amps and volts along the boat's speeds. */
function Working({ picture }: { picture: MatchPicture }) {
  const units = useUnits();
  const say = (quantity: Kind, value: number | null | undefined) =>
    value == null ? "–" : shown({ quantity, value, signed: false }, units);
  const known = (picture.rows ?? []).some((row) => row.motor_a != null);
  const over = (row: { motor_a: number | null; motor_v: number | null }) =>
    (picture.current_limit_a != null && (row.motor_a ?? 0) > picture.current_limit_a) ||
    (picture.volts != null && (row.motor_v ?? 0) > picture.volts);
  return (
    <table className="plain-table">
      <Head
        of={[
          "speed",
          "propeller",
          "open water",
          "motor shaft",
          ...(known
            ? [
                `amps${picture.current_limit_a != null ? ` of ${picture.current_limit_a}` : ""}`,
                `volts${picture.volts != null ? ` of ${picture.volts.toFixed(0)}` : ""}`,
                "battery",
              ]
            : []),
        ]}
      />
      <tbody>
        {(picture.rows ?? []).map((row) => (
          <tr key={row.speed_mps} className={over(row) ? "text-alarm" : undefined}>
            <td>
              {over(row) && "▲ "}
              {say("speed_mps", row.speed_mps)}
            </td>
            <td>{say("rpm", row.propeller_rpm)}</td>
            <td>{say("fraction", row.efficiency)}</td>
            <td>{say("power_w", row.shaft_w)}</td>
            {known && (
              <>
                <td>{say("current_a", row.motor_a)}</td>
                <td>{say("voltage_v", row.motor_v)}</td>
                <td>{say("power_w", row.battery_w)}</td>
              </>
            )}
          </tr>
        ))}
      </tbody>
      <caption className="caption-bottom pt-1 text-left text-[13px] text-muted">
        {picture.full_speed_mps != null && `At full throttle ${say("speed_mps", picture.full_speed_mps)}`}
        {picture.full_is && `: ${FULL_IS[picture.full_is] ?? picture.full_is}`}.
        {!known && " With the motor's Kv or no-load speed this table shows its amps and volts too."}
      </caption>
    </table>
  );
}

function Better({ picture }: { picture: MatchPicture }) {
  const say = useSay();
  const { design, apply } = useDesign();
  const better = picture.better;
  const index = design.drives.findIndex((drive) => drive.id === picture.drive_id);
  if (!better || index < 0) return null;
  const gear = better.gear_ratio === 1 ? "direct" : `geared ${better.gear_ratio} : 1`;
  const here =
    Math.abs((design.drives[index]?.propeller?.pitch_m ?? 0) - better.pitch_m) < 0.002 &&
    (design.drives[index]?.gear_ratio ?? 1) === better.gear_ratio;
  return (
    <p className="m-0 mt-2">
      Best for this motor: pitch <b>{say("length_m", better.pitch_m)}</b>, <b>{gear}</b>,{" "}
      {say("power_w", better.battery_w)} at the planned speed
      {better.saved_frac > 0.005 && ` (${say("fraction", better.saved_frac)} less)`}.{" "}
      {here ? (
        <span className="text-muted">That is what you have.</span>
      ) : (
        <LinkButton
          onClick={() =>
            apply(
              (current) =>
                withValue(
                  withValue(current, `/drives/${index}/propeller/pitch_m`, Number(better.pitch_m.toFixed(3))),
                  `/drives/${index}/gear_ratio`,
                  better.gear_ratio,
                ),
              "match",
            )
          }
        >
          try it
        </LinkButton>
      )}
    </p>
  );
}
