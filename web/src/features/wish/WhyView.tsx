import { useState } from "react";
import type { WishFront } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useSay, useUnits } from "../../kit/preferences";
import { Heading } from "../../kit/ui/Page";
import { Told } from "../../kit/ui/Told";
import { Head, View } from "../../kit/ui/View";
import { shown } from "../../kit/units";
import { type Chosen, shownPoint } from "./points";

/** Two boats of the front: what differs, and what each difference does by itself. */
export function WhyView({ front, chosen }: { front: WishFront; chosen: Chosen | null }) {
  const units = useUnits();
  const say = useSay();
  const at = shownPoint(front, chosen);
  const [first, setFirst] = useState(0);
  const [second, setSecond] = useState(at || front.points.length - 1);
  const a = front.points[Math.min(first, front.points.length - 1)];
  const b = front.points[Math.min(second, front.points.length - 1)];
  const { data, stale, error, retry } = useStudy(
    "wish/between",
    a && b ? { first: a.refit, second: b.refit } : {},
    Boolean(a && b),
  );
  if (!a || !b) return <p className="m-auto">There are not two boats to hold against each other.</p>;
  const options = front.points.map((point, k) => {
    const name = `${point.cost > 0 ? say("money", point.cost) : "nothing to pay"}: ${shown(point.reach, units)}`;
    return [String(k), name] as const;
  });
  return (
    <View label="This or that" stale={stale} data-between>
      <Heading title="This or that" in="what differs, and what each difference does alone" />
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Choose label="This" value={first} options={options} onChoose={setFirst} />
        <Choose label="That" value={second} options={options} onChoose={setSecond} />
      </div>
      {!data ? (
        <Waiting error={error} retry={retry} what="The difference" />
      ) : (
        <>
          <p className="m-0 mb-1">
            {shown(data.first, units)} against <b>{shown(data.second, units)}</b>.{" "}
            <Told sentence={data.told} />
          </p>
          {data.differences.length > 0 && (
            <table className="plain-table word-table max-w-[860px]">
              <Head of={["this has", "that has", "alone it does", "for"]} />
              <tbody>
                {data.differences.map((item, k) => (
                  <tr key={k}>
                    <td>
                      <Told sentence={item.has} />
                    </td>
                    <td>
                      <Told sentence={item.other} />
                    </td>
                    <td>
                      <b>{shown(item.gained, units)}</b>
                    </td>
                    <td>{say("money", item.cost, true)}</td>
                  </tr>
                ))}
                <tr>
                  <td>
                    <b>all of it</b>
                  </td>
                  <td />
                  <td>
                    <b>{shown(data.gained, units)}</b>
                  </td>
                  <td>{say("money", data.cost, true)}</td>
                </tr>
              </tbody>
            </table>
          )}
        </>
      )}
    </View>
  );
}

interface ChooseProps {
  label: string;
  value: number;
  options: (readonly [string, string])[];
  onChoose: (index: number) => void;
}

const Choose = ({ label, value, options, onChoose }: ChooseProps) => (
  <label className="flex items-center gap-2">
    {label}
    <select
      className="h-[30px] rounded-[5px] border border-edge bg-field px-1.5 text-ink"
      value={String(value)}
      onChange={(event) => onChoose(Number(event.target.value))}
    >
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  </label>
);
