import { useState } from "react";
import type { Worth, WorthAsk } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useUnits } from "../../kit/preferences";
import { AskField } from "../../kit/ui/AskField";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Told } from "../../kit/ui/Told";
import { Head, View } from "../../kit/ui/View";
import { type Kind, shown } from "../../kit/units";

type Number = "hours" | "losses_frac" | "sun_h" | "overcast_frac" | "panel_w_per_m2" | "deck_m2";

/** What is wished, then what the formula's column takes for granted. */
const ASKED: [Number, string, Kind, number, number][] = [
  ["hours", "Hours a day at the planned speed", "duration_h", 0.1, 24],
  ["losses_frac", "He adds for losses", "fraction", 0, 2],
  ["sun_h", "His full-sun hours", "duration_h", 0.1, 12],
  ["overcast_frac", "An overcast day gives", "fraction", 0, 1],
  ["panel_w_per_m2", "Panel, watts a square metre", "power_w", 20, 260],
  ["deck_m2", "Deck for panels", "area_m2", 0.05, 500],
];

const USUAL: WorthAsk = { hours: 1, losses_frac: 0.3, overcast_frac: 0.2 };

/** Is it worth it: the same sum by three schools, and why they differ. */
export function WorthView() {
  const [ask, setAsk] = useState<WorthAsk>(USUAL);
  const { data, stale, error, retry } = useStudy("year/worth", { ask });
  return (
    <View label="Is it worth it" stale={stale && data !== undefined} data-worth>
      {data === undefined ? (
        <Waiting error={error} retry={retry} what="The sum" />
      ) : (
        <>
          <div className="no-print mb-1 grid grid-cols-2 gap-x-8 pr-2">
            {ASKED.map(([name, label, kind, low, high]) => (
              <AskField
                key={name}
                label={label}
                kind={kind}
                value={Number((data.ask[name] ?? 0).toPrecision(3))}
                low={low}
                high={high}
                onValue={(value) => setAsk((now) => ({ ...now, [name]: value }))}
              />
            ))}
          </div>
          <Sum worth={data} />
          <ul className="mt-2 mb-1 pl-5">
            {data.differ.map((line) => (
              <li key={line.text}>
                <Told sentence={line} />
              </li>
            ))}
          </ul>
          <p className="no-print m-0">
            <LinkButton onClick={() => window.print()}>print this sum</LinkButton>
          </p>
        </>
      )}
    </View>
  );
}

/** Line by line, a column a school. */
function Sum({ worth }: { worth: Worth }) {
  const units = useUnits();
  return (
    <table className="plain-table worth-table">
      <Head of={["", ...worth.columns]} />
      <tbody>
        {worth.lines.map((line) => (
          <tr key={line.key} data-worth-line={line.key} className={line.total ? "font-bold" : ""}>
            <td>{line.label}</td>
            {line.values.map((value, index) => (
              <td key={worth.columns[index]}>{value ? shown(value, units) : ""}</td>
            ))}
          </tr>
        ))}
        <tr className="align-top font-bold">
          <td>It says</td>
          {worth.says.map((says, index) => (
            <td key={worth.columns[index]}>
              <Told sentence={says} />
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}
