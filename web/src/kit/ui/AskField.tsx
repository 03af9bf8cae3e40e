import { useId, useState } from "react";
import { useUnits } from "../preferences";
import { fieldText, type Kind, parsed, unitOf } from "../units";
import { INPUT, Problem, Row } from "./fields";

interface AskProps {
  label: string;
  kind: Kind;
  value: number;
  low: number;
  high: number;
  onValue: (value: number) => void;
}

/** A number that is asked of a study, never part of the boat. */
export function AskField({ label, kind, value, low, high, onValue }: AskProps) {
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
