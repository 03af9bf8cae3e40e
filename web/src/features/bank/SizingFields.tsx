import { useId, useState } from "react";
import type { SizingAsk } from "../../api/client";
import { useUnits } from "../../kit/preferences";
import { INPUT, Problem, Row } from "../../kit/ui/fields";
import { fieldText, type Kind, parsed, unitOf } from "../../kit/units";

interface Props {
  ask: SizingAsk;
  onAsk: (ask: SizingAsk) => void;
  planSpeed: number;
}

/** What is wanted of a bank: asked of the sizing, never part of the boat. */
export function SizingFields({ ask, onAsk, planSpeed }: Props) {
  return (
    <>
      <AskField
        label="Hours under way"
        kind="duration_h"
        value={ask.hours ?? 3}
        low={0.1}
        high={71}
        onValue={(hours) => onAsk({ ...ask, hours })}
      />
      <AskField
        label="At a speed of"
        kind="speed_mps"
        value={ask.speed_mps ?? planSpeed}
        low={0.1}
        high={20}
        onValue={(speed_mps) => onAsk({ ...ask, speed_mps })}
      />
      <AskField
        label="Grey days at anchor"
        kind="count"
        value={ask.grey_days ?? 3}
        low={1}
        high={30}
        onValue={(days) => onAsk({ ...ask, grey_days: Math.round(days) })}
      />
    </>
  );
}

interface AskProps {
  label: string;
  kind: Kind;
  value: number;
  low: number;
  high: number;
  onValue: (value: number) => void;
}

function AskField({ label, kind, value, low, high, onValue }: AskProps) {
  const units = useUnits();
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const unit = unitOf(kind, units)[0];

  function commit(text: string) {
    const found = parsed(text, kind, units);
    if ("problem" in found) return setProblem(found.problem);
    const accepted = `Accepted: ${fieldText(low, kind, units)} to ${fieldText(high, kind, units)} ${unit}.`;
    if (found.value < low || found.value > high) return setProblem(accepted);
    setProblem(null);
    setDraft(null);
    onValue(found.value);
  }

  return (
    <Row id={id} label={label} unit={unit} below={problem && <Problem id={`${id}-problem`} text={problem} />}>
      <input
        id={id}
        className={`${INPUT} w-[84px]`}
        inputMode="decimal"
        autoComplete="off"
        aria-invalid={problem !== null}
        aria-describedby={problem ? `${id}-problem` : undefined}
        value={draft ?? fieldText(value, kind, units)}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => draft !== null && commit(draft)}
        onKeyDown={(event) => event.key === "Enter" && draft !== null && commit(draft)}
      />
    </Row>
  );
}
