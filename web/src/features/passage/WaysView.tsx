import type { PassageWays, Sure } from "../../api/client";
import { type Found, useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Heading } from "../../kit/ui/Page";
import { Head, View } from "../../kit/ui/View";
import { hourText } from "../../kit/units";

export const TROUBLE = {
  reserve: "the motor stops at the reserve",
  late: "not in by the hour",
  stands: "she does not arrive",
} as const;

/** How fast to go, way by way, with what each costs; and how sure the one that is set is. */
export function WaysView({ sure }: { sure: Found<Sure | null> }) {
  const { data, stale, error, retry } = useStudy("passage/ways");
  return (
    <View label="Ways to go" stale={stale && data !== undefined}>
      <Heading title="Ways to go" in="side by side, from the same hour and the same charge" />
      {data ? <Ways of={data} /> : <Waiting error={error} retry={retry} what="The ways" />}
      <h2 className="mt-5 mb-1 text-[15px] font-bold">How sure</h2>
      {sure.data ? (
        <HowSure sure={sure.data} />
      ) : sure.error ? (
        <p role="alert">{sure.error.message}</p>
      ) : sure.data === null ? (
        <p className="text-muted">Without a bank, or without an arrival, there is nothing to be sure of.</p>
      ) : (
        <p role="status">Trying all skies …</p>
      )}
    </View>
  );
}

function Ways({ of }: { of: PassageWays }) {
  const { apply } = useDesign();
  const say = useSay();
  const share = (value: number | null | undefined) => (value == null ? "–" : say("fraction", value));
  return (
    <table className="plain-table" data-ways>
      <Head of={["way", "speed", "in at", "bank then", "lowest"]} quiet="whether it can be done" />
      <tbody>
        {of.ways.map((way) => (
          <tr key={way.pace} data-way={way.pace}>
            <td>
              {way.chosen ? (
                <b>{way.label}, as set</b>
              ) : (
                <LinkButton
                  onClick={() => apply((current) => withValue(current, "/passage/pace", way.pace), "pace")}
                >
                  {way.label}
                </LinkButton>
              )}
            </td>
            <td>{way.speed_mps == null ? "it varies" : say("speed_mps", way.speed_mps)}</td>
            <td>
              <b>{way.arrives_h == null ? "not" : hourText(way.arrives_h)}</b>
            </td>
            <td>{share(way.arrival_soc_frac)}</td>
            <td>{share(way.lowest_soc_frac)}</td>
            <td>{way.trouble ? `▲ ${TROUBLE[way.trouble]}` : "✓"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function HowSure({ sure }: { sure: Sure }) {
  const say = useSay();
  const [low = 0, middle = 0, high = 0] = sure.arrival_soc;
  return (
    <>
      <p className="m-0 mb-1" data-sure>
        Home above the reserve on{" "}
        <b>
          {sure.arriving} of {sure.skies}
        </b>{" "}
        such days, without foresight. The bank on arrival: {say("fraction", middle)} on the middle one,{" "}
        {say("fraction", low)} or more on 9 of 10, {say("fraction", high)} or more on 1 of 10.
      </p>
      <ul className="m-0 max-w-[70ch] list-none p-0">
        {sure.hungry_share_frac != null && (
          <li>
            With the motor at the hungry end of its band: on {say("fraction", sure.hungry_share_frac)} of
            them.
          </li>
        )}
        {sure.stream_share_frac != null && (
          <li>With every stream a tenth stronger: on {say("fraction", sure.stream_share_frac)} of them.</li>
        )}
        {sure.deciding_leg && (
          <li>The bank is lowest on the way to {sure.deciding_leg}: that leg decides.</li>
        )}
      </ul>
    </>
  );
}
