import type { TideStation } from "../../api/client";
import { useStudy } from "../../asking/live";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";
import { Begin, Fields } from "../../kit/ui/Field";
import { LinkButton } from "../../kit/ui/LinkButton";

/** High water: typed, or predicted from the constants of a station nearby. */
export function TideFields() {
  const { design, apply } = useDesign();
  const { data, error } = useStudy("passage/tides");
  const tide = design.passage?.tide;
  const used = data?.used;
  const choose = (station: TideStation) =>
    apply(
      (current) =>
        withValue(current, "/passage/tide", {
          ...current.passage?.tide,
          station_id: station.id,
          high_water: null,
          range_m: null,
          springs_m: station.springs_m,
          neaps_m: station.neaps_m,
        }),
      "tide-station",
    );
  const typed = () =>
    apply(
      (current) =>
        withValue(current, "/passage/tide", {
          ...current.passage?.tide,
          station_id: null,
          high_water: "12:00:00",
        }),
      "tide-station",
    );
  return (
    <>
      {tide && !tide.station_id && <Fields at="/passage/tide" of="high_water range_m" />}
      {tide && <Fields at="/passage/tide" of="springs_m neaps_m" />}
      {used && <Predicted of={used} />}
      {tide?.station_id && (
        <LinkButton className="block" onClick={typed}>
          type a high water instead
        </LinkButton>
      )}
      <Begin at="/passage/tide" words="give a high water" />
      <h3 className="m-0 mt-2 text-[13px] font-bold">Stations nearby</h3>
      {error && <p role="alert">{error.message}</p>}
      {data && !data.exported && (
        <p className="m-0 text-[13px] text-muted">None are set up here: type the high water.</p>
      )}
      <ul className="m-0 list-none p-0 text-[13px]" data-tide-stations>
        {data?.stations.map((station) => (
          <li key={station.id} className="flex justify-between gap-2">
            <LinkButton
              disabled={station.id === tide?.station_id}
              className="min-w-0 text-left break-words"
              onClick={() => choose(station)}
            >
              {station.name}
            </LinkButton>
            <Away metres={station.distance_m} />
          </li>
        ))}
      </ul>
      <p className="m-0 text-[13px] text-muted">Not for navigation: the official tables rule.</p>
    </>
  );
}

const Away = ({ metres }: { metres: number }) => (
  <span className="tabular whitespace-nowrap text-muted">{useSay()("distance_m", metres)}</span>
);

/** The day's high waters of the station in use, and whose they are. */
function Predicted({ of }: { of: TideStation }) {
  const say = useSay();
  return (
    <>
      <p className="m-0 text-[13px]" data-predicted>
        {of.name}, {say("distance_m", of.distance_m)} away:{" "}
        {of.waters.length === 0
          ? "no high water that day"
          : of.waters
              .map((one) => `${say("clock_min", one.clock_min)}, range ${say("length_m", one.range_m)}`)
              .join("; ")}
      </p>
      <p className="m-0 text-[12.5px] break-words text-muted">{of.source}</p>
    </>
  );
}
