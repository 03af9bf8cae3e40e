import { refitted, type UpgradeSteps } from "../../api/client";
import { useWork } from "../../asking/work";
import { useSize } from "../../kit/chart/useSize";
import { Wide } from "../../kit/chart/Wide";
import { Working } from "../../kit/chart/Working";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { Fields } from "../../kit/ui/Field";
import { Told } from "../../kit/ui/Told";
import { ToldList } from "../../kit/ui/ToldList";
import { Head, View } from "../../kit/ui/View";

const MEASURES = {
  days_run_sun: "a day on sun alone",
  range: "of range",
  days_distance: "a day on live sun",
} as const;

/** The best steps within a budget of money and weight, in the order to take them. */
export function UpgradesView() {
  const { design, apply } = useDesign();
  const run = useWork("upgrades", [{ name: "", design }]);
  const [data, stale] = [run.data, run.stale];
  const say = useSay();
  return (
    <View label="Upgrades" busy={stale} data-upgrades>
      <div className="mb-1 grid grid-cols-2 gap-x-8 pr-2">
        <Fields at="/plan/budget" of="coins mass_kg owned_panels owned_units" />
      </div>
      {!data ? (
        <Working run={run} doing="Steps tried on this boat" what="The upgrades" />
      ) : (
        <div className={`transition-opacity ${stale ? "opacity-75" : ""}`}>
          <ToldList lines={data.told} name="upgrades" />
          {data.steps.length > 0 && (
            <>
              <Steps upgrades={data} />
              <table className="plain-table mt-1 max-w-[640px]">
                <Head of={["step", "wins", "then", "costs", "weighs"]} />
                <tbody>
                  {data.steps.map((step, k) => (
                    <tr key={`${k}/${step.kind}`} data-step={step.kind}>
                      <td>
                        {k + 1}. <Told sentence={step.label} />
                      </td>
                      <td>
                        <b>{say("distance_m", step.gain_m, true)}</b>
                      </td>
                      <td>{say("distance_m", step.total_m)}</td>
                      <td>{step.owned ? "owned" : step.cost > 0 ? say("money", step.cost) : "nothing"}</td>
                      <td>{step.mass_kg === 0 ? "–" : say("mass_kg", step.mass_kg, true)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <p className="mt-1 mb-1 flex flex-wrap items-center gap-x-4 text-[13px] text-muted">
                <button
                  type="button"
                  className="btn"
                  onClick={() => {
                    const { refit } = data;
                    if (refit) apply((boat) => refitted(boat, refit), "upgrades");
                  }}
                >
                  Put all of it on this boat
                </button>
                <span>
                  {data.tried} boats tried; miles are {MEASURES[data.measure]}. Undo takes it off again;
                  prices are invented coins.
                </span>
              </p>
            </>
          )}
        </div>
      )}
    </View>
  );
}

const NAMED = 66; // px: a step is as wide before it carries its name and its miles

/** Miles, step over step. */
function Steps({ upgrades }: { upgrades: UpgradeSteps }) {
  const say = useSay();
  const [box, { width }] = useSize<HTMLDivElement>();
  const height = 150;
  const left = 60;
  const top = Math.max(...upgrades.steps.map((step) => step.total_m), upgrades.start_m);
  const wide = (width - left - 8) / (upgrades.steps.length + 1);
  const roomy = wide >= NAMED;
  const y = (m: number) => height - 22 - (m / Math.max(top, 1)) * (height - 44);
  return (
    <Wide
      box={box}
      width={width}
      height={height}
      label={`From ${say("distance_m", upgrades.start_m)}, step by step: ${upgrades.steps.map((step) => say("distance_m", step.total_m)).join(", ")}`}
    >
      {[{ total_m: upgrades.start_m, kind: "now" }, ...upgrades.steps].map((step, k) => (
        <g key={`${k}/${step.kind}`}>
          <rect
            x={left + k * wide}
            y={y(step.total_m)}
            width={Math.max(wide - 6, 4)}
            height={height - 22 - y(step.total_m)}
            fill={k === 0 ? "var(--hairline)" : "var(--water-soft)"}
            className="stroke-ink stroke-1"
          />
          {(roomy || k === 0 || k === upgrades.steps.length) && (
            <text
              x={left + k * wide + (wide - 6) / 2}
              y={y(step.total_m) - 5}
              textAnchor="middle"
              className="fill-ink font-bold text-[12.5px]"
            >
              {say("distance_m", step.total_m)}
            </text>
          )}
          <text
            className="chart-text"
            x={left + k * wide + (wide - 6) / 2}
            y={height - 6}
            textAnchor="middle"
          >
            {k === 0 ? "now" : roomy ? `${k}. ${step.kind}` : `${k}.`}
          </text>
        </g>
      ))}
    </Wide>
  );
}
