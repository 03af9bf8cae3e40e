import type { BoatDesign, Leg, PassagePicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";
import { AddPart, Begin, Field, Fields, RemovePart } from "../../kit/ui/Field";
import { Fold } from "../../kit/ui/Fold";
import { Group } from "../../kit/ui/fields";
import { Bench } from "../../kit/ui/Page";
import { useFolds } from "../../kit/ui/useFolds";
import { FromForecast } from "./FromForecast";
import { KeptOffFields } from "./KeptOff";
import { LaterSkies, LaterWinds } from "./Later";
import { PositionFields } from "./PositionFields";
import { RouteFile } from "./RouteFile";
import { StreamFields, streamSummary } from "./StreamFields";
import { TideFields } from "./TideFields";
import { TurnRound } from "./TurnRound";

type FoldName = "tide" | "air" | "places" | "now" | "hand";

/** The way leg by leg, and how she sets out. */
export function PassageBench(props: {
  picture: PassagePicture | undefined;
  open: string | null;
  onOpen: (leg: string | null) => void;
}) {
  const { picture, open, onOpen } = props;
  const { design, entries } = useDesign();
  const fold = useFolds<FoldName>();
  const say = useSay();
  const passage = design.passage;
  if (!passage) return null;
  const kinds = entries.words("/plan/sky");
  const push = passage.hand_mps ?? picture?.by_hand_mps;
  return (
    <Bench of="The passage as it is set">
      <Group title="Legs, out">
        <Field at="/passage/begins_at" />
        <ol className="m-0 list-none p-0">
          {passage.legs.map((leg, index) => (
            <li key={leg.id}>
              <LegRow leg={leg} index={index} open={open === leg.id} onOpen={onOpen} picture={picture} />
            </li>
          ))}
        </ol>
        <AddPart to="/passage/legs" words="add a leg" />
        <RouteFile />
        <TurnRound />
        <Field at="/passage/home_again" />
        {passage.home_again && <Field at="/passage/stay_h" />}
      </Group>
      <Group title="Setting out">
        <Field at="/plan/date" width={140} />
        <Fields at="/passage" of="leaves_at in_by" />
        <Field at="/passage/pace" width={228} write={withPace(picture)} />
        {passage.pace === "speed" && <Field at="/passage/speed_mps" />}
        {passage.pace === "throttle" && <Field at="/passage/throttle_w" />}
        {picture?.has_bank && <Field at="/passage/start_charge_frac" />}
      </Group>
      <Fold title="Tide" summary={tideSummary(passage.tide)} {...fold("tide")}>
        <TideFields />
      </Fold>
      <Fold
        title="Wind and sky"
        summary={`${kinds[design.plan.sky ?? "clear"]}, ${windSummary(passage, say("speed_mps", design.plan.wind_mps ?? 0))}`}
        {...fold("air")}
      >
        <FromForecast />
        <Field at="/plan/wind_mps" />
        <Field at="/passage/wind_from_deg" />
        <Field at="/plan/wave_height_m" />
        <LaterWinds overDays={picture?.over_days} />
        <Field at="/plan/sky" width={120} />
        <LaterSkies overDays={picture?.over_days} />
      </Fold>
      <Fold title="Places" summary={placesSummary(passage.keep_off?.length ?? 0)} {...fold("places")}>
        <Fields at="/passage" of="begins_latitude_deg begins_longitude_deg" />
        <KeptOffFields />
      </Fold>
      <Fold
        title="Under way"
        summary={
          passage.now
            ? `${passage.now.at.slice(0, 5)}, ${say("distance_m", passage.now.gone_m)} gone`
            : "not yet"
        }
        {...fold("now")}
      >
        {passage.now ? (
          <>
            <Fields at="/passage/now" of="at gone_m" />
            {picture?.has_bank && <Field at="/passage/now/charge_frac" />}
            <p className="m-0 mb-1 text-[13px] text-muted">The rest is planned anew from here.</p>
            <Begin at="/passage/now" words="" none="back to the plan from the start" />
          </>
        ) : (
          <Begin at="/passage/now" words="say where she is now" />
        )}
      </Fold>
      <Fold
        title="Without the motor"
        summary={push ? `${say("speed_mps", push)} by hand or sail` : "nothing named"}
        {...fold("hand")}
      >
        <Field at="/passage/hand_mps" />
      </Fold>
    </Bench>
  );
}

const placesSummary = (off: number) => (off === 0 ? "nothing to keep off" : `${off} to keep off`);

const windSummary = ({ wind_from_deg, winds }: NonNullable<BoatDesign["passage"]>, wind: string) =>
  winds?.length ? "wind by the hour" : wind_from_deg == null ? "wind not counted" : `wind ${wind}`;

const tideSummary = (tide: NonNullable<BoatDesign["passage"]>["tide"]) =>
  !tide ? "none" : tide.station_id ? "predicted" : `high water ${tide.high_water?.slice(0, 5)}`;

/** A throttle begins with the watts of the leg that takes most. */
const withPace =
  (picture: PassagePicture | undefined) =>
  (design: BoatDesign, value: string): BoatDesign => {
    const taken = (picture?.legs ?? []).map((leg) => leg.power_w ?? 0);
    const watts = design.passage?.throttle_w ?? (Math.round(Math.max(...taken, 0)) || 300);
    const held = value === "throttle" ? withValue(design, "/passage/throttle_w", watts) : design;
    return withValue(held, "/passage/pace", value);
  };

/** Only what opens and shuts has hours at which it does. */
const withMark =
  (at: string) =>
  (design: BoatDesign, value: string): BoatDesign => {
    const hours = value === "turn" ? ["open_h", "hours"] : [];
    const held = hours.reduce((boat, entry) => withValue(boat, `${at}/${entry}`, null), design);
    return withValue(held, `${at}/mark`, value);
  };

function LegRow(props: {
  leg: Leg;
  index: number;
  open: boolean;
  onOpen: (leg: string | null) => void;
  picture: PassagePicture | undefined;
}) {
  const { leg, index, open, onOpen, picture } = props;
  const { design } = useDesign();
  const say = useSay();
  const at = `/passage/legs/${index}`;
  const marked = leg.mark !== undefined && leg.mark !== "turn";
  return (
    <div
      className={`mb-1 rounded-[5px] ${open ? "border border-solid border-edge bg-field px-2 pb-1" : "px-2"}`}
      data-leg={leg.id}
    >
      <button
        type="button"
        className="block w-full cursor-pointer border-0 bg-transparent p-0 py-0.5 text-left text-ink"
        aria-expanded={open}
        onClick={() => onOpen(open ? null : leg.id)}
      >
        <span className="flex justify-between gap-2">
          <b className="min-w-0 break-words">
            {index + 1} {leg.name}
          </b>
          <span className="tabular whitespace-nowrap">{say("distance_m", leg.distance_m)}</span>
        </span>
        <span className="block text-[13px] text-muted">
          {say("angle_deg", leg.course_deg)} · {streamSummary(leg, say)}
          {marked && ` · ${leg.mark}`}
        </span>
      </button>
      {open && (
        <>
          <Fields at={at} of="name distance_m course_deg limit_mps" />
          <PositionFields picture={picture} leg={index} />
          <StreamFields at={at} leg={leg} />
          <Field at={`${at}/mark`} width={130} write={withMark(at)} />
          <Field at={`${at}/stop_h`} />
          {leg.mark === "charging" && <Field at={`${at}/shore_w`} />}
          {marked && design.passage?.tide && <Field at={`${at}/open_h`} />}
          {marked && leg.hours && <Fields at={`${at}/hours`} of="opens_at shuts_at" />}
          {marked && <Begin at={`${at}/hours`} words="opening hours by the clock" none="open at all hours" />}
          {(design.passage?.legs ?? []).length > 1 && (
            <RemovePart from="/passage/legs" id={leg.id} words={`remove the leg to ${leg.name}`} />
          )}
        </>
      )}
    </div>
  );
}
