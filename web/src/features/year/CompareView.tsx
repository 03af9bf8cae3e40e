import { useQueries, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type Comparison, client, dataOf } from "../../api/client";
import { type Named, useWork } from "../../asking/work";
import { Rows } from "../../kit/chart/axes";
import { Level } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { Wide } from "../../kit/chart/Wide";
import { Working } from "../../kit/chart/Working";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { ToldList } from "../../kit/ui/ToldList";
import { Head, View } from "../../kit/ui/View";
import { MONTHS, shown } from "../../kit/units";

const MOST_OTHERS = 3;
const STROKES = [
  { colour: "var(--water-text)", dash: undefined, wide: 3 },
  { colour: "var(--sun-edge)", dash: "7 4", wide: 2.4 },
  { colour: "var(--alarm)", dash: "2 3", wide: 2.4 },
  { colour: "var(--house-text)", dash: "10 3 2 3", wide: 2 },
];

/** Two to four variants of this boat side by side: answers, the year, weight, money and what differs. */
export function CompareView() {
  const { design, variant } = useDesign();
  const boats = useQuery({ queryKey: ["boats"], queryFn: () => dataOf(client.GET("/api/boats")) });
  const boat = boats.data?.find((item) => item.id === variant.boat_id);
  const others = (boat?.variants ?? []).filter((item) => item.id !== variant.id);
  const [left, setLeft] = useState<string[]>([]); // out of the comparison
  const chosen = others.filter((item) => !left.includes(item.id)).slice(0, MOST_OTHERS);
  const read = useQueries({
    queries: chosen.map((item) => ({
      queryKey: ["variant", item.id, item.revision],
      queryFn: () =>
        dataOf(client.GET("/api/variants/{variant_id}", { params: { path: { variant_id: item.id } } })),
      staleTime: Number.POSITIVE_INFINITY,
    })),
  });
  const ready = chosen.length > 0 && read.every((item) => item.data);
  const named: Named[] = ready
    ? [
        { name: variant.name, design },
        ...read.flatMap((item) => (item.data ? [{ name: item.data.name, design: item.data.design }] : [])),
      ]
    : [];
  const run = useWork("comparison", named, ready);
  const [data, stale] = [run.data, run.stale];
  if (boats.data && others.length === 0)
    return (
      <p className="m-auto max-w-[48ch] text-center text-muted">
        Nothing to compare with yet. Press "Keep as variant" at the right of the rail, change the boat, and
        come back: both stand here side by side.
      </p>
    );
  return (
    <View label="Variants side by side" busy={stale} data-compare>
      <fieldset className="m-0 mb-1 flex flex-wrap gap-x-4 border-0 p-0">
        <legend className="sr-only">Compare {variant.name} with</legend>
        <span className="text-muted">{variant.name} against</span>
        {others.map((item) => {
          const on = chosen.some((other) => other.id === item.id);
          return (
            <label key={item.id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                className="h-[18px] w-[18px] accent-[var(--water)]"
                checked={on}
                disabled={!on && chosen.length >= MOST_OTHERS}
                onChange={() =>
                  setLeft((old) => (on ? [...old, item.id] : old.filter((id) => id !== item.id)))
                }
              />
              {item.name}
            </label>
          );
        })}
      </fieldset>
      {chosen.length === 0 ? (
        <p className="text-muted">Choose one to three of them.</p>
      ) : !data ? (
        <Working run={run} doing="A year of each" what="The comparison" />
      ) : (
        <div className={`transition-opacity ${stale ? "opacity-75" : ""}`}>
          <Sides data={data} />
        </div>
      )}
    </View>
  );
}

function Sides({ data }: { data: Comparison }) {
  const units = useUnits();
  const navigate = useNavigate();
  const boats = useQuery({ queryKey: ["boats"], queryFn: () => dataOf(client.GET("/api/boats")) }).data ?? [];
  const { variant } = useDesign();
  const rows = boats.find((item) => item.id === variant.boat_id)?.variants ?? [];
  return (
    <>
      <ToldList lines={data.told} name="compare" />
      <Year data={data} />
      <table className="plain-table mt-1">
        <Head
          of={[
            "answer",
            ...data.sides.map((side, k) => (
              <>
                <Sample k={k} /> {side.name}
              </>
            )),
          ]}
        />
        <tbody>
          {data.lines.map((line) => (
            <tr key={line.key} data-compare-line={line.key}>
              <td>{line.label}</td>
              {line.values.map((value, k) => (
                <td key={data.sides[k]?.name}>
                  {value == null ? (
                    "–"
                  ) : line.better === k ? (
                    <b>
                      <span aria-hidden="true">✓ </span>
                      {shown(value, units)}
                      <span className="sr-only">, best</span>
                    </b>
                  ) : (
                    shown(value, units)
                  )}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <td>
              <span className="sr-only">Work on it</span>
            </td>
            {data.sides.map((side) => {
              const row = rows.find((item) => item.name === side.name);
              return (
                <td key={side.name}>
                  {row && row.id !== variant.id && (
                    <LinkButton
                      className="text-[13px]"
                      onClick={() => navigate(`/year/${row.id}?view=compare`)}
                    >
                      work on it
                    </LinkButton>
                  )}
                </td>
              );
            })}
          </tr>
        </tbody>
      </table>
      {data.sides.slice(1).map((side) => (
        <section key={side.name} className="mt-2" data-differences={side.name}>
          <h2 className="m-0 text-[14px] font-bold">
            What differs in {side.name}
            {side.differences.length === 0 && ": nothing"}
          </h2>
          {side.differences.length > 0 && (
            <table className="plain-table max-w-[640px] text-[13px]">
              <Head of={["entry", data.sides[0]?.name, side.name]} />
              <tbody>
                {side.differences.slice(0, 24).map((item) => (
                  <tr key={item.field}>
                    <td>{item.label}</td>
                    <td>{item.before ? shown(item.before, units) : "nothing"}</td>
                    <td>{item.after ? shown(item.after, units) : "nothing"}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      ))}
    </>
  );
}

function Sample({ k }: { k: number }) {
  const stroke = STROKES[k];
  return (
    <svg width="26" height="8" aria-hidden="true" className="mr-1 inline-block align-middle">
      <Level
        y={4}
        x1="0"
        x2="26"
        stroke={stroke?.colour}
        strokeWidth={stroke?.wide}
        strokeDasharray={stroke?.dash}
      />
    </svg>
  );
}

/** A usual day's miles by month, one line a variant. */
function Year({ data }: { data: Comparison }) {
  const say = useSay();
  const [box, { width }] = useSize<HTMLDivElement>();
  const [left, foot, height] = [58, 22, 160];
  const top = Math.max(...data.sides.flatMap((side) => side.months.map((m) => m.middle_m)), 1) * 1.08;
  const x = (i: number) => left + ((i + 0.5) * (width - left)) / 12;
  const y = (m: number) => height - foot - (m / top) * (height - foot - 8);
  const rows = [0, top / 2.16, top / 1.08].map((m) => [y(m), say("distance_m", m)] as const);
  return (
    <Wide
      box={box}
      width={width}
      height={height}
      label={`Miles of a usual day by month: ${data.sides.map((side) => `${side.name} ${side.months.map((m) => say("distance_m", m.middle_m)).join(" ")}`).join("; ")}`}
    >
      <Rows of={rows} left={left} right={width} />
      {data.sides.map((side, k) => (
        <polyline
          key={side.name}
          points={side.months.map((m, i) => `${x(i)},${y(m.middle_m)}`).join(" ")}
          fill="none"
          stroke={STROKES[k]?.colour}
          strokeWidth={STROKES[k]?.wide}
          strokeDasharray={STROKES[k]?.dash}
          data-year={side.name}
        />
      ))}
      {MONTHS.map((name, i) => (
        <text className="chart-text" key={name} x={x(i)} y={height - 5} textAnchor="middle">
          {name}
        </text>
      ))}
    </Wide>
  );
}
