/** No arithmetic of the job in TypeScript: sums stand in the core. What is drawn is placed here, and no more. */
import ts from "typescript";
import { expect, it } from "vitest";

const SOURCES = import.meta.glob<string>("../src/**/*.{ts,tsx}", {
  query: "?raw",
  import: "default",
  eager: true,
});

/** Files that place what is drawn, or read a place back: pixels, angles, shares of a width. */
const DRAWING = [
  "kit/chart/plane",
  "app/(Globe|Logo|HullShape|WorldMap)",
  "features/array/(DeckPlan|DeckThings|DeckView|deckGeometry|SkyView|SunArc|TiltMap|YearView|parts)",
  "features/bank/TankChart",
  "features/day/(DayChart|DayHandles|DayLabels|dayAxis|DayStation|PaceView)",
  "features/passage/(ChartView|LeaveStrip|RibbonChart|RibbonWater|chartFrame|ribbonFrame)",
  "features/fitout/(CurveChart|FrameSketch|OtherTests|PartsView|StepsDiagram|SunGauge|SunStrip|VoltScale)",
  "features/hull/(CrossingChart|CrossingMarks|OpenWaterChart|PlanMark|PowerStrip|RangeChart)",
  "features/log/(DayLogChart|FactorLine|MetersView|MonthsChart|NowBars|OutingList|TrackView)",
  "features/strings/(BoxesYear|Diagram|Ladder)",
  "features/wish/(AsSheIs|DeckSketch|FrontChart)",
  "features/year/(AheadView|ClimateStrip|CompareView|SeasonView|UpgradesView)",
].map((name) => new RegExp(`^${name}$`));

/** Sums that only say a number: in hundreds, millivolts, centimetres, megabytes; the clock; every other row. */
const SAID: Record<string, number> = {
  "app/BoatMenu": 1,
  "app/Workspace": 1,
  "boat/banks": 1,
  "features/array/BurdenView": 3,
  "features/array/DeckReadout": 2,
  "features/array/NextView": 2,
  "features/bank/BankTables": 1,
  "features/day/AccountsView": 1,
  "features/fitout/FramesView": 3,
  "features/fitout/TestsView": 2,
  "features/hull/HelmCardView": 2,
  "features/strings/CableList": 2,
  "features/strings/ChargeSheet": 1,
  "features/log/NoteBar": 1,
  "features/log/moment": 2,
  "features/year/DayByDay": 1,
};

const SIGNS = [
  ts.SyntaxKind.AsteriskToken,
  ts.SyntaxKind.SlashToken,
  ts.SyntaxKind.AsteriskAsteriskToken,
  ts.SyntaxKind.PercentToken,
];
const FUNCTIONS = /^(sqrt|cbrt|pow|exp|log|log10|log2|sin|cos|tan|asin|acos|atan|atan2|hypot)$/;

function sumsIn(name: string, text: string): number {
  const file = ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  let found = 0;
  const look = (node: ts.Node) => {
    if (ts.isBinaryExpression(node) && SIGNS.includes(node.operatorToken.kind)) found++;
    if (
      ts.isPropertyAccessExpression(node) &&
      node.expression.getText() === "Math" &&
      FUNCTIONS.test(node.name.text)
    )
      found++;
    ts.forEachChild(node, look);
  };
  look(file);
  return found;
}

it("multiplies and divides only where something is drawn, or a number is said", () => {
  const beyond: string[] = [];
  for (const [path, text] of Object.entries(SOURCES)) {
    const name = path.replace("../src/", "").replace(/\.tsx?$/, "");
    if (name.startsWith("kit/") || name.includes("schema.d") || DRAWING.some((one) => one.test(name)))
      continue;
    const sums = sumsIn(path, text);
    if (sums > (SAID[name] ?? 0)) beyond.push(`${name}: ${sums}`);
  }
  expect(beyond).toEqual([]);
});

it("finds one where there is one", () => {
  expect(sumsIn("a.tsx", "const watts = volts * amps; const v = Math.cbrt(p);")).toBe(2);
  expect(sumsIn("a.tsx", "const a = b + c - 1;")).toBe(0);
});
