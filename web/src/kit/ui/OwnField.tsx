import { useEffect, useId, useRef, useState } from "react";
import { useUnits } from "../preferences";
import { fieldText, type Kind, parsed, unitOf, usualText } from "../units";
import { INPUT, Problem, Row } from "./fields";

interface Props {
  label: string;
  kind: Kind;
  value: number | null | undefined;
  onValue: (value: number | null) => void; // null where it was emptied
  low?: number;
  high?: number;
  usual?: number | null;
  unit?: string;
  hint?: string;
  bare?: boolean;
  width?: number;
  wrong?: boolean; // what was typed is a number, and it is not what it should be
}

/** A number of a record: it may be empty, is kept when the field goes, and says what it accepts. */
export function OwnField(props: Props) {
  const { label, kind, value, onValue, low, high, usual, hint, bare, width = 84, wrong } = props;
  const units = useUnits();
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const unit = props.unit ?? unitOf(kind, units)[0];

  function commit(text: string) {
    if (text.trim() === "") {
      setProblem(null);
      setDraft(null);
      if (value != null) onValue(null);
      return;
    }
    const found = parsed(text, kind, units);
    if ("problem" in found) return setProblem(found.problem);
    const [from, to] = [low ?? Number.NEGATIVE_INFINITY, high ?? Number.POSITIVE_INFINITY];
    if (found.value < from || found.value > to) {
      const least = low === undefined ? "" : fieldText(low, kind, units);
      return setProblem(
        high === undefined
          ? `${least} ${unit} or more.`
          : `Accepted: ${least} to ${fieldText(high, kind, units)} ${unit}.`,
      );
    }
    setProblem(null);
    setDraft(null);
    if (found.value !== value) onValue(found.value);
  }
  const left = useRef({ draft, commit });
  left.current = { draft, commit };
  useEffect(
    () => () => {
      if (left.current.draft !== null) left.current.commit(left.current.draft); // the field goes: what was typed stays
    },
    [],
  );
  return (
    <Row
      id={id}
      label={label}
      unit={unit}
      hint={hint}
      bare={bare}
      below={problem && <Problem id={`${id}-problem`} text={problem} />}
    >
      <input
        id={id}
        className={`${INPUT} ${wrong ? "border-alarm! border-2!" : ""}`}
        style={{ width }}
        inputMode="decimal"
        autoComplete="off"
        aria-label={bare ? label : undefined}
        aria-invalid={problem !== null}
        aria-describedby={problem ? `${id}-problem` : undefined}
        placeholder={usualText(usual, kind, units)}
        value={draft ?? fieldText(value, kind, units)}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => draft !== null && commit(draft)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && draft !== null) commit(draft);
          if (event.key === "Escape") {
            setDraft(null);
            setProblem(null);
          }
        }}
      />
    </Row>
  );
}

interface TextProps {
  label: string;
  value: string;
  onValue: (value: string) => void;
  type?: "text" | "date" | "url";
  width?: number;
  most?: number;
  hint?: string;
}

/** Words of a record, kept when the field goes. */
export function OwnText({ label, value, onValue, type = "text", width = 150, most = 80, hint }: TextProps) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft !== value) onValue(draft);
    setDraft(null);
  };
  const left = useRef(commit);
  left.current = commit;
  useEffect(() => () => left.current(), []);
  return (
    <Row id={id} label={label} hint={hint}>
      <input
        id={id}
        type={type}
        className={`${INPUT} text-left!`}
        style={{ width }}
        maxLength={most}
        autoComplete="off"
        value={draft ?? value}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          if (event.key === "Escape") setDraft(null);
        }}
      />
    </Row>
  );
}
