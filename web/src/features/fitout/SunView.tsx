import type { FitoutPicture, GaugeShown } from "../../api/client";
import { useSay, useUnits } from "../../kit/preferences";
import { newId, useNoted, useRecords } from "../../kit/records";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Mark } from "../../kit/ui/Mark";
import { OwnField } from "../../kit/ui/OwnField";
import { Heading } from "../../kit/ui/Page";
import { told } from "../../kit/units";
import { type Minute, seenIn } from "./minute";
import { SunGauge } from "./SunGauge";
import { SunStrip } from "./SunStrip";

/** What each controller should give at this minute, and what its display says. */
export function SunView(props: { picture: FitoutPicture; onMinute: (part: Partial<Minute>) => void }) {
  const { picture, onMinute } = props;
  const { gauges, minute } = picture;
  const say = useSay();
  const lit = gauges.flatMap((gauge) => (gauge.watts ? [gauge.watts[1] ?? 0] : []));
  const read = gauges.flatMap((gauge) => (gauge.here && gauge.read_w != null ? [gauge.read_w] : []));
  const total = (values: number[]) => values.reduce((sum, value) => sum + value, 0);
  if (gauges.length === 0)
    return (
      <div className="m-auto max-w-[46ch] text-center">
        <h1 className="m-0 mb-2 text-[18px]">No panels are wired yet</h1>
        <p>
          Put panels on a place in the Array, and a controller to them in Strings: then the sun can be asked.
        </p>
      </div>
    );
  return (
    <div
      className="flex min-h-0 flex-1 flex-col overflow-y-auto"
      tabIndex={0}
      role="region"
      aria-label="First sun"
    >
      <Heading
        title="First sun"
        in="what each controller should give at this minute, and what its display says"
      />
      <SunStrip minute={minute} onMinute={onMinute} />
      <p className="m-0 mb-2 text-[13.5px]" data-sum>
        Sun {say("angle_deg", minute.elevation_deg)} up. <b>{say("power_w", total(lit))}</b> expected in all
        {read.length > 0 && (
          <>
            , <b>{say("power_w", total(read))}</b> read
          </>
        )}
        .{" "}
        {minute.elevation_deg < 15 && (
          <span className="font-semibold text-sun-text">▲ A low sun says little of any fault.</span>
        )}
      </p>
      <div className="sun-gauges">
        {gauges.map((gauge) => (
          <GaugeCard key={gauge.key} gauge={gauge} minute={minute} onMinute={onMinute} />
        ))}
      </div>
    </div>
  );
}

function GaugeCard(props: {
  gauge: GaugeShown;
  minute: FitoutPicture["minute"];
  onMinute: (part: Partial<Minute>) => void;
}) {
  const { gauge, minute, onMinute } = props;
  const { note, withdraw } = useRecords();
  const units = useUnits();
  const say = useSay();
  const now = useNoted("sun", (one) => one.input === gauge.key && one.at === minute.at);
  const put = (change: Record<string, number | boolean | null>) =>
    note({
      kind: "sun",
      id: now?.id ?? newId(),
      at: minute.at,
      ...seenIn(minute),
      input: gauge.key,
      pv_w: now?.pv_w ?? null,
      pv_v: now?.pv_v ?? null,
      pv_a: now?.pv_a ?? null,
      bank_v: now?.bank_v ?? null,
      bank_full: now?.bank_full ?? false,
      ...change,
    });
  const level =
    gauge.means === null || gauge.means === undefined
      ? null
      : gauge.proven
        ? "good"
        : gauge.cannot_tell || gauge.means === "full_bank" || gauge.means === "too_dark"
          ? "note"
          : "warn";
  const field = (
    label: string,
    kind: "power_w" | "voltage_v" | "current_a",
    name: "pv_w" | "pv_v" | "pv_a" | "bank_v",
  ) => (
    <OwnField
      label={label}
      kind={kind}
      low={-2000}
      high={500_000}
      width={74}
      value={now?.[name]}
      onValue={(value) => put({ [name]: value })}
    />
  );
  return (
    <section aria-label={gauge.name} className="min-w-0" data-gauge={gauge.key}>
      <h2 className="m-0 text-[14.5px] leading-tight font-bold">{gauge.name}</h2>
      <p className="m-0 mb-1 text-[13px] text-muted">
        {gauge.boxes > 1 && `${gauge.boxes} × `}
        {say("power_w", gauge.nameplate_w)}, {gauge.arrangement}
      </p>
      {gauge.away ? (
        <p className="m-0 text-muted">Folded, covered or gone in this state of the boat: nothing to read.</p>
      ) : (
        <>
          <SunGauge gauge={gauge} />
          {field("Watts", "power_w", "pv_w")}
          <details
            className="text-[13px]"
            open={
              now?.pv_v != null || now?.pv_a != null || now?.bank_v != null || now?.bank_full || undefined
            }
          >
            <summary className="link cursor-pointer">volts and amps tell more</summary>
            {field("Panel volts", "voltage_v", "pv_v")}
            {field("Panel amps", "current_a", "pv_a")}
            {field("Bank volts", "voltage_v", "bank_v")}
            <label className="flex min-h-[28px] items-center justify-between">
              The bank is full
              <input
                type="checkbox"
                checked={now?.bank_full ?? false}
                onChange={(event) => put({ bank_full: event.target.checked })}
              />
            </label>
          </details>
          {gauge.title && gauge.detail && level && (
            <div className="mt-1 flex gap-2" data-verdict>
              <Mark level={level} />
              <div>
                <b>{told(gauge.title, units)}</b>
                <p className="m-0 text-[13px] text-muted">{told(gauge.detail, units)}</p>
              </div>
            </div>
          )}
          {gauge.readings.length > 0 && (
            <details className="text-[13px]">
              <summary className="link cursor-pointer">
                {gauge.readings.length === 1 ? "one reading" : `${gauge.readings.length} readings`}
              </summary>
              <ul className="m-0 list-none p-0">
                {gauge.readings.map((one) => (
                  <li key={one.id} className="flex justify-between gap-2">
                    <LinkButton
                      onClick={() =>
                        onMinute({
                          at: one.at,
                          shadow: one.shadow,
                          heading_deg: one.heading_deg,
                          air_c: one.air_c ?? null,
                          wiped: one.wiped,
                        })
                      }
                      aria-label={`Show the minute of ${one.at.slice(0, 16)}`}
                    >
                      {one.at.slice(0, 10)} {one.at.slice(11, 16)}
                    </LinkButton>
                    <span className="tabular">{one.pv_w == null ? "" : say("power_w", one.pv_w)}</span>
                    <LinkButton
                      onClick={() => withdraw(one.id)}
                      aria-label={`Take back the reading of ${one.at.slice(0, 16)}`}
                    >
                      take back
                    </LinkButton>
                  </li>
                ))}
              </ul>
            </details>
          )}
        </>
      )}
    </section>
  );
}
