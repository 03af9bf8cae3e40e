import type { DayPicture } from "../../api/client";
import { useSay } from "../../kit/preferences";
import { SaveAs } from "../../kit/ui/SaveAs";
import { Head, View } from "../../kit/ui/View";

type Ledger = DayPicture["ledger"];
type Shares = DayPicture["ledger_shares"];
type Entry = readonly [key: keyof Ledger, name: string, fill: string, told: string];

const CAME: readonly Entry[] = [
  ["array_wh", "from the panels", "var(--sun)", "at the controllers' inputs"],
  ["wind_wh", "wind", "var(--mist)", "what the bank refuses goes to its dump load"],
  ["hydro_wh", "water under sail", "var(--mist)", "turned by her own way"],
  ["pedals_wh", "legs", "var(--mist)", "pedalled into the bank"],
  ["shore_wh", "shore", "var(--dog-far)", "only what the sun left open"],
  ["generator_wh", "generator", "var(--dog-far)", "only what the sun left open"],
  ["discharged_wh", "from the bank", "var(--bank)", "what it gave over the day"],
];
const WENT: readonly Entry[] = [
  ["motor_wh", "motor", "var(--water)", "with its idle draw"],
  ["house_wh", "house", "var(--house)", "loads and controllers' own draw"],
  ["charged_wh", "into the bank", "var(--bank)", "stored over the day"],
  ["refused_wh", "refused", "var(--hairline)", "the bank was full, or took it slower"],
  ["curtailed_wh", "not used", "var(--hairline)", "without a bank, more than the motor took"],
  ["clipped_wh", "clipped", "var(--hairline)", "over the controllers' limits"],
  ["conversion_wh", "lost in controllers", "var(--muted)", "on the way to the bank"],
  ["converted_wh", "lost between banks", "var(--muted)", "in the converters"],
  ["coulomb_wh", "lost in charging", "var(--muted)", "amp-hours that do not come back"],
  ["heat_wh", "heat of the bank", "var(--muted)", "its resistance, in and out"],
];

/** Where every watt-hour of the day went: what came and what went are the same. */
export function AccountsView({ picture }: { picture: DayPicture }) {
  const ledger = picture.ledger;
  const speak = useSay();
  const say = (wh: number) => speak("energy_wh", wh);
  const shares = picture.ledger_shares;
  const share = (value: number) => speak("fraction", value);
  const rows = (entries: readonly Entry[]) => entries.filter(([key]) => ledger[key] > 0.5);
  return (
    <View label="The day's accounts" data-accounts>
      <Bar title="came" entries={rows(CAME)} shares={shares} />
      <Bar title="went" entries={rows(WENT)} shares={shares} />
      <table className="plain-table mt-2 max-w-[620px]">
        <Head of={["came", "energy", "share", "what it is"]} />
        <tbody>
          {rows(CAME).map((entry) => (
            <Row key={entry[0]} entry={entry} say={say} share={share} shares={shares} ledger={ledger} />
          ))}
        </tbody>
        <Head of={["went", "energy", "share", "what it is"]} />
        <tbody>
          {rows(WENT).map((entry) => (
            <Row key={entry[0]} entry={entry} say={say} share={share} shares={shares} ledger={ledger} />
          ))}
        </tbody>
      </table>
      <p className="mt-2 mb-1 max-w-[76ch] text-[13px] text-muted">
        {picture.others.length > 0 && picture.sun_share_frac != null && (
          <>
            Of what came from outside the bank the sun brought <b>{share(picture.sun_share_frac)}</b>.{" "}
          </>
        )}
        Of the motor's {say(ledger.motor_wh)}, <b data-direct>{say(picture.motor_direct_wh)}</b> came straight
        from the sun; the rest went through the bank. The shown day, from sunrise to sunrise; what came and
        what went add up to rounding.
      </p>
      <span className="no-print flex items-center gap-3 text-[13px]">
        <SaveAs url="/api/day/accounts.csv" file="accounts.csv">
          every ten minutes as CSV
        </SaveAs>
      </span>
    </View>
  );
}

interface RowProps {
  entry: Entry;
  ledger: Ledger;
  shares: Shares;
  say: (wh: number) => string;
  share: (value: number) => string;
}

function Row({ entry: [key, name, fill, told], ledger, shares, say, share }: RowProps) {
  return (
    <tr data-account={key}>
      <td>
        <span
          aria-hidden="true"
          className="mr-2 inline-block h-[10px] w-[10px] border border-solid border-edge"
          style={{ background: fill }}
        />
        {name}
      </td>
      <td>
        <b>{say(ledger[key])}</b>
      </td>
      <td>{share(shares[key] ?? 0)}</td>
      <td className="text-[13px] text-muted">{told}</td>
    </tr>
  );
}

function Bar(props: { title: string; entries: readonly Entry[]; shares: Shares }) {
  return (
    <div className="mb-1 grid grid-cols-[44px_1fr] items-center gap-2">
      <b className="text-[13px]">{props.title}</b>
      <span
        className="flex h-[34px] w-full overflow-hidden rounded-[5px] border border-solid border-edge"
        aria-hidden="true"
      >
        {props.entries.map(([key, name, fill]) => (
          <span
            key={key}
            className="border-0 border-r border-solid border-page"
            style={{ background: fill, width: `${100 * (props.shares[key] ?? 0)}%` }}
            title={name}
          />
        ))}
      </span>
    </div>
  );
}
