import type { FitoutPicture } from "../../api/client";
import { useSize } from "../../kit/chart/useSize";

type Box = FitoutPicture["diagram"]["boxes"][number];

const ROW = 50;
const TALL = 38;
const WIDE = 118;
const NARROWEST = 4 * WIDE + 108; // four boxes and the marks between: a phone scrolls sideways

const wire = (done: boolean) =>
  done
    ? { stroke: "var(--ink)", strokeWidth: 2.5 }
    : { stroke: "var(--muted)", strokeWidth: 1.5, strokeDasharray: "5 4" };

/** The one-line diagram: solid where it is proved, dashed where it is not yet joined. */
export function StepsDiagram(props: { picture: FitoutPicture; chosen: string | null }) {
  const { picture, chosen } = props;
  const [frame, { width: room }] = useSize<HTMLDivElement>();
  const width = Math.max(room, NARROWEST);
  const { circuits, boxes } = picture.diagram;
  const of = (...kinds: Box["kind"][]) => boxes.filter((box) => kinds.includes(box.kind));
  const controllers = of("box");
  const banks = of("bank");
  const users = of("motor", "house", "source", "link");
  const rows = Math.max(circuits.length, controllers.length, banks.length, users.length, 1);
  const high = rows * ROW + 8;
  const y = (index: number, many: number) => ((index + 0.5) * high) / Math.max(many, 1);
  const [x1, x4] = [2, Math.max(width - WIDE - 2, 0)];
  const x2 = x1 + WIDE + (x4 - x1 - 3 * WIDE) * 0.5;
  const x3 = x2 + WIDE + (x4 - x2 - 2 * WIDE) * 0.5;
  const circuitY = (box: string) =>
    circuits.flatMap((circuit, i) => (circuit.box === box ? [y(i, circuits.length)] : []));
  const boxY = (box: string) => {
    const ys = circuitY(box);
    return ys.reduce((sum, one) => sum + one, 0) / Math.max(ys.length, 1);
  };
  const bankY = (id: string | null) =>
    y(
      Math.max(
        banks.findIndex((bank) => bank.key === id),
        0,
      ),
      banks.length,
    );
  const stepOf = (number: number | null | undefined) => picture.steps.find((step) => step.number === number);
  const Mark = ({ x, y, number }: { x: number; y: number; number: number | null | undefined }) => {
    const step = stepOf(number);
    if (!step) return null;
    const next = step.key === picture.next_step;
    const fill = step.wrong ? "var(--alarm)" : step.done ? "var(--ink)" : next ? "var(--sun)" : "var(--mist)";
    const ink = step.wrong || step.done ? "var(--mist)" : next ? "var(--on-sun)" : "var(--ink)";
    return (
      <g>
        {next && <circle cx={x - 17} cy={y} r={2.5} fill="var(--sun)" />}
        {next && <circle cx={x + 17} cy={y} r={2.5} fill="var(--sun)" />}
        <circle
          cx={x}
          cy={y}
          r={10.5}
          fill={fill}
          stroke={chosen === step.key ? "var(--water)" : "var(--ink)"}
          strokeWidth={chosen === step.key ? 3 : 1.2}
        />
        <text x={x} y={y + 4.5} textAnchor="middle" fontSize={12.5} fontWeight={700} fill={ink}>
          {step.number}
        </text>
      </g>
    );
  };
  const named = (words: string) => (words.length > 18 ? `${words.slice(0, 17)}…` : words);
  const Part = (part: {
    x: number;
    y: number;
    name: string;
    below?: string;
    fill: string;
    done: boolean;
    wrong: boolean;
  }) => (
    <g>
      <title>{part.name}</title>
      <rect
        x={part.x}
        y={part.y - TALL / 2}
        width={WIDE}
        height={TALL}
        rx={4}
        fill={part.done ? part.fill : "var(--field)"}
        stroke={part.wrong ? "var(--alarm)" : part.done ? "var(--ink)" : "var(--muted)"}
        strokeWidth={part.wrong ? 2.5 : 1.2}
      />
      <text
        x={part.x + WIDE / 2}
        y={part.y + (part.below ? -2 : 4)}
        textAnchor="middle"
        fontSize={12.5}
        fontWeight={600}
        fill="var(--ink)"
      >
        {named(part.name)}
      </text>
      {part.below && (
        <text x={part.x + WIDE / 2} y={part.y + 13} textAnchor="middle" fontSize={12.5} fill="var(--muted)">
          {named(part.below)}
        </text>
      )}
    </g>
  );
  return (
    <div
      ref={frame}
      className="diagram-frame max-h-[246px] flex-none overflow-auto"
      style={{ minHeight: Math.min(high, 246) }}
    >
      {room > 0 && (
        <svg
          width={width}
          height={high}
          role="img"
          aria-label={`Wiring: ${picture.steps.filter((step) => step.done).length} of ${picture.steps.length} steps proved`}
        >
          {circuits.map((circuit, i) => {
            const box = controllers.find((one) => one.key === circuit.box);
            const [from, to] = [y(i, circuits.length), boxY(circuit.box)];
            const middle = (x1 + WIDE + x2) / 2;
            return (
              <g key={circuit.key}>
                <polyline
                  points={`${x1 + WIDE},${from} ${middle},${from} ${middle},${to} ${x2},${to}`}
                  fill="none"
                  {...wire(circuit.done && (box?.closed ?? false))}
                />
                <Mark x={x1 + WIDE + 14} y={from} number={circuit.step} />
              </g>
            );
          })}
          {controllers.map((box) => {
            const [from, to] = [boxY(box.key), bankY(box.bank)];
            const middle = (x2 + WIDE + x3) / 2;
            return (
              <g key={box.key}>
                <Mark x={x2 - 15} y={boxY(box.key)} number={box.close_step} />
                {box.bank && (
                  <polyline
                    points={`${x2 + WIDE},${from} ${middle},${from} ${middle},${to} ${x3},${to}`}
                    fill="none"
                    {...wire(box.done)}
                  />
                )}
                <Mark x={x2 + WIDE + 16} y={from} number={box.steps[0]} />
              </g>
            );
          })}
          {users.map((user, i) => {
            const [from, to] = [bankY(user.bank), y(i, users.length)];
            const middle = (x3 + WIDE + x4) / 2;
            return (
              <g key={user.key}>
                {user.bank && (
                  <polyline
                    points={`${x3 + WIDE},${from} ${middle},${from} ${middle},${to} ${x4},${to}`}
                    fill="none"
                    {...wire(user.done)}
                  />
                )}
                <Mark x={x4 - 14} y={to} number={user.steps[0]} />
              </g>
            );
          })}
          {circuits.map((circuit, i) => (
            <Part
              key={circuit.key}
              x={x1}
              y={y(i, circuits.length)}
              name={circuit.name}
              below={circuit.arrangement}
              fill="var(--dog-far)"
              done={circuit.done}
              wrong={circuit.wrong}
            />
          ))}
          {controllers.map((box) => (
            <Part
              key={box.key}
              x={x2}
              y={boxY(box.key)}
              name={box.name}
              fill="var(--mist)"
              done={box.done}
              wrong={box.wrong}
            />
          ))}
          {banks.map((box) => (
            <g key={box.key}>
              <Part
                x={x3}
                y={bankY(box.key)}
                name={box.name}
                fill="var(--bank-soft)"
                done={box.done}
                wrong={box.wrong}
              />
              <Mark x={x3 + WIDE / 2 - 14} y={bankY(box.key) - TALL / 2 - 3} number={box.steps[0]} />
              <Mark x={x3 + WIDE / 2 + 14} y={bankY(box.key) - TALL / 2 - 3} number={box.steps[1]} />
            </g>
          ))}
          {users.map((box, i) => (
            <Part
              key={box.key}
              x={x4}
              y={y(i, users.length)}
              name={box.name}
              fill="var(--mist)"
              done={box.done}
              wrong={box.wrong}
            />
          ))}
        </svg>
      )}
    </div>
  );
}
