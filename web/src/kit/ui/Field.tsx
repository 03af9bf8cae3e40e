import { createContext, useContext, useId } from "react";
import type { BoatDesign, Usual } from "../../api/client";
import { useDesign } from "../document";
import { valueAt, withValue } from "../pointer";
import { useUnits } from "../preferences";
import { type Kind, shown } from "../units";
import { CheckField, ChoiceField, NumberField, TextField } from "./fields";
import { LinkButton } from "./LinkButton";

/** What empty entries mean for this boat, by their pointers. */
export const UsualContext = createContext<Record<string, Usual>>({});

interface Props {
  at: string;
  label?: string; // where what is about it says more than the entry's own word
  bare?: boolean; // only the input, for tables
  width?: number;
  ifUsual?: boolean; // only for boats that have it
  write?: (design: BoatDesign, value: string) => BoatDesign; // where a choice needs more than itself
}

/** An entry of the design, drawn from what the design says of it. */
export function Field({ at, label, bare, width, ifUsual, write }: Props) {
  const { design, entries } = useDesign();
  const units = useUnits();
  const usual = useContext(UsualContext)[at];
  const entry = entries.at(at, design);
  if (ifUsual && !usual && valueAt(design, at) == null) return null;
  const words = {
    pointer: at,
    label: label ?? entry.label,
    name: bare ? (label ?? entries.named(at)) : undefined,
    bare,
    width,
  };
  if (entry.draws === "check") return <CheckField {...words} />;
  if (entry.draws === "choice") {
    const numeric = entry.quantity !== undefined;
    const held = String(valueAt(design, at) ?? "");
    const known = entry.options.some(([value]) => value === held) || held === "";
    const options = [
      ...(entry.nullable ? [["", entry.empty ?? "as usual"] as const] : []),
      ...entry.options,
      ...(known ? [] : [[held, held] as const]),
    ];
    const put = (current: BoatDesign, value: string) =>
      withValue(current, at, value === "" ? null : numeric ? Number(value) : value);
    return <ChoiceField {...words} options={options} write={write ?? put} />;
  }
  if (entry.draws !== "number")
    return (
      <TextField {...words} type={entry.draws} optional={entry.nullable || (entry.mayBeEmpty && "text")} />
    );
  const kind = entry.quantity as Kind;
  const say = (value: number) => shown({ quantity: kind, value, signed: false }, units);
  const span = usual?.low != null && usual.high != null && `usual is ${say(usual.low)} to ${say(usual.high)}`;
  return (
    <NumberField
      {...words}
      kind={kind}
      unit={entry.unit}
      step={entry.step}
      hint={[entry.hint, span].filter(Boolean).join("; ")}
      usual={entry.nullable ? (usual?.value ?? null) : undefined}
    />
  );
}

/** Entries of one part, one under the other. */
export function Fields({ at, of, ifUsual }: { at: string; of: string; ifUsual?: boolean }) {
  return of.split(" ").map((name) => <Field key={name} at={`${at}/${name}`} ifUsual={ifUsual} />);
}

/** Begins an entry that is not there, or takes it away again. */
export function Begin({ at, words, none }: { at: string; words: string; none?: string }) {
  const { design, apply, entries } = useDesign();
  const id = useId();
  const held = valueAt(design, at) != null;
  if (held && !none) return null;
  return (
    <LinkButton
      className="block"
      onClick={() =>
        apply((current) => withValue(current, at, held ? null : entries.begun(at)), `${id} ${at}`)
      }
    >
      {held ? none : words}
    </LinkButton>
  );
}

/** A button for one more part of a list, while there is room for it. */
export function AddPart({ to, words, like }: { to: string; words: string; like?: Record<string, unknown> }) {
  const { design, apply, entries } = useDesign();
  if (!entries.hasRoom(design, to)) return null;
  return (
    <LinkButton
      className="block"
      onClick={() => apply((current) => entries.withNew(current, to, like), to.slice(1))}
    >
      {words}
    </LinkButton>
  );
}

/** A button that takes a part away, with all that is of it alone. */
export function RemovePart(props: { from: string; id: string; words: string; cross?: boolean }) {
  const { from, id, words, cross } = props;
  const { apply, entries } = useDesign();
  return (
    <button
      type="button"
      className={cross ? "cross" : "link block"}
      aria-label={cross ? words : undefined}
      onClick={() => apply((current) => entries.without(current, from, id), from.slice(1))}
    >
      {cross ? "×" : words}
    </button>
  );
}
