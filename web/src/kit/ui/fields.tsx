import { Popover } from "radix-ui";
import { type ComponentProps, createContext, type ReactNode, useContext, useId } from "react";
import type { BoatDesign, Finding } from "../../api/client";
import { useDesign } from "../document";
import { valueAt, withValue } from "../pointer";
import { useUnits } from "../preferences";
import { fieldText, type Kind, parsed, unitOf, usualText } from "../units";
import { useFieldDraft } from "./fieldDraft";
import { Told } from "./Told";

/** Warnings of the station's findings, shown beside the field they are about as well. */
export const FieldWarnings = createContext<Finding[]>([]);

interface RowProps {
  label: ReactNode;
  children: ReactNode;
  id: string;
  unit?: string; // beside a number; a row without one is all the field's
  below?: ReactNode;
  hint?: string;
  bare?: boolean; // only the field and what is wrong with it
}

export function Row({ label, unit, children, below, id, hint, bare }: RowProps) {
  const beside = unit !== undefined;
  if (bare)
    return (
      <>
        {children}
        {below}
      </>
    );
  return (
    <div className="mb-1">
      <div className={`min-h-[30px] items-center gap-x-1.5 ${beside ? "field-row" : "flex justify-between"}`}>
        <span className="flex items-center gap-1">
          <label htmlFor={id}>{label}</label>
          {hint && <Hint about={String(label)} text={hint} />}
        </span>
        {children}
        {beside && <span className="text-[13px] text-muted">{unit}</span>}
      </div>
      {below}
    </div>
  );
}

/** A word of help where it is needed. */
function Hint({ about, text }: { about: string; text: string }) {
  return (
    <Popover.Root>
      <Popover.Trigger className="hint" aria-label={`What is ${about}?`}>
        ?
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="sheet z-30 max-w-[250px] px-3 py-2"
          side="right"
          sideOffset={4}
          collisionPadding={8}
        >
          {text}.
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

export const INPUT =
  "h-[28px] rounded-[5px] border bg-field px-2 text-right text-ink placeholder:text-muted aria-invalid:border-alarm aria-invalid:border-2 border-edge";
const SELECT = "h-[28px] rounded-[5px] border border-edge bg-field px-1 text-ink";

export function Problem({ id, text }: { id: string; text: string }) {
  return (
    <p id={id} role="alert" className="m-0 mb-1 flex gap-1 text-[13px] font-semibold text-alarm">
      <span aria-hidden="true">▲</span>
      {text}
    </p>
  );
}

interface TypedProps extends ComponentProps<"input"> {
  id: string;
  field: ReturnType<typeof useFieldDraft>;
  nudge?: (direction: number) => void; // arrow keys
  width: number;
}

/** What is typed of an entry; what is wrong with it stands below. */
function Typed({ id, field, nudge, width, className = "", ...rest }: TypedProps) {
  return (
    <input
      id={id}
      className={`${INPUT} ${className}`}
      style={{ width }}
      autoComplete="off"
      aria-invalid={field.problem !== null}
      aria-describedby={field.problem ? `${id}-problem` : undefined}
      onChange={(event) => field.type(event.target.value)}
      onBlur={field.leave}
      onKeyDown={(event) => {
        if (event.key === "Enter") field.settle();
        else if (event.key === "Escape") field.abandon();
        else if (nudge && event.key === "ArrowUp") nudge(1);
        else if (nudge && event.key === "ArrowDown") nudge(-1);
        else return;
        event.preventDefault();
      }}
      {...rest}
    />
  );
}

interface NumberProps {
  pointer: string;
  label: ReactNode;
  name?: string; // accessible name where the label is no text
  kind: Kind;
  unit?: string;
  usual?: number | null; // what an empty field means; makes the field optional
  hint?: string;
  bare?: boolean; // only the input, for tables
  width?: number;
  step?: number; // arrow keys, in the displayed unit
}

/** A number of the document, in the person's units. */
export function NumberField(props: NumberProps) {
  const { pointer, label, name, kind, usual, hint, bare, width = 84, step } = props;
  const units = useUnits();
  const { design } = useDesign();
  const id = useId();
  const optional = usual !== undefined;
  const read = (text: string) =>
    optional && text.trim() === "" ? { value: null } : parsed(text, kind, units);
  const field = useFieldDraft(pointer, read, kind);
  const warning = useContext(FieldWarnings).find((item) => item.field === pointer && item.level === "warn");
  const value = valueAt(design, pointer) as number | null | undefined;
  const text = field.draft ?? fieldText(value, kind, units);
  const unit = props.unit ?? unitOf(kind, units)[0];

  function nudge(direction: number) {
    const found = parsed(text || fieldText(usual, kind, units), kind, units);
    if ("problem" in found) return;
    const [, size] = unitOf(kind, units);
    const stepBy = step ?? 10 ** Math.floor(Math.log10(Math.max(Math.abs(found.value / size), 1)) - 1);
    field.type(String(Number((found.value / size + direction * stepBy).toPrecision(8))));
  }

  const input = (
    <Typed
      id={id}
      field={field}
      nudge={nudge}
      width={width}
      inputMode="decimal"
      aria-label={name}
      placeholder={optional ? usualText(usual, kind, units) : undefined}
      value={text}
    />
  );
  const problem = field.problem && <Problem id={`${id}-problem`} text={field.problem} />;
  const below =
    problem ||
    (warning && (
      <p className="m-0 mb-1 text-[13px] text-alarm">
        ▲ <Told sentence={warning.title} />
      </p>
    ));
  return (
    <Row bare={bare} id={id} label={label} unit={unit} below={bare ? problem : below} hint={hint}>
      {input}
    </Row>
  );
}

interface TextProps {
  pointer: string;
  label: string;
  name?: string;
  width?: number;
  bare?: boolean;
  type?: "text" | "date" | "clock";
  optional?: boolean | "text"; // an empty one is nothing, or with "text" an empty text
}

function clockValue(text: string): { value: string } | { problem: string } {
  const found = /^(\d{1,2})[:.h]?(\d{2})$/.exec(text.trim()) ?? /^(\d{1,2})()$/.exec(text.trim());
  const hours = Number(found?.[1]);
  const minutes = Number(found?.[2] || 0);
  if (!found || hours > 23 || minutes > 59)
    return { problem: `“${text.trim()}” is not a time of day. Write it as 09:30 or 17:00.` };
  return { value: `${String(hours).padStart(2, "0")}:${String(minutes).padStart(2, "0")}:00` };
}

/** A text, date or time of the document. */
export function TextField(props: TextProps) {
  const { pointer, label, name, bare, type = "text", optional } = props;
  const { width = type === "clock" ? 64 : 150 } = props;
  const { design } = useDesign();
  const id = useId();
  const field = useFieldDraft(pointer, (text) => {
    if (text.trim() === "")
      return optional ? { value: optional === "text" ? "" : null } : { problem: "This cannot be empty." };
    if (type === "clock") return clockValue(text);
    return { value: text };
  });
  const held = (valueAt(design, pointer) as string | null) ?? "";
  const text = field.draft ?? (type === "clock" ? held.slice(0, 5) : held);
  const input = (
    <Typed
      id={id}
      field={field}
      width={width}
      type={type === "date" ? "date" : "text"}
      placeholder={type === "clock" ? "hh:mm" : undefined}
      className={type === "text" ? "text-left!" : ""}
      value={text}
      aria-label={name}
    />
  );
  const problem = field.problem && <Problem id={`${id}-problem`} text={field.problem} />;
  return (
    <Row bare={bare} id={id} label={label} below={problem}>
      {input}
    </Row>
  );
}

interface ChoiceProps {
  pointer: string;
  label: string;
  name?: string;
  options: readonly (readonly [string, string])[];
  width?: number;
  bare?: boolean;
  write: (design: BoatDesign, value: string) => BoatDesign;
}

/** One of a few words of the document. */
export function ChoiceField({ pointer, label, name, options, width = 150, bare, write }: ChoiceProps) {
  const { design, apply } = useDesign();
  const id = useId();
  const select = (
    <select
      id={id}
      className={SELECT}
      style={{ width }}
      aria-label={name}
      value={String(valueAt(design, pointer) ?? "")}
      onChange={(event) => {
        const chosen = event.target.value;
        apply((current) => write(current, chosen), pointer);
      }}
    >
      {options.map(([value, text]) => (
        <option key={value} value={value}>
          {text}
        </option>
      ))}
    </select>
  );
  return (
    <Row bare={bare} id={id} label={label}>
      {select}
    </Row>
  );
}

/** A heading of the bench. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-3" aria-label={title}>
      <h2 className="m-0 mb-1 text-[13.5px] font-bold text-muted">{title}</h2>
      {children}
    </section>
  );
}

/** A yes or no of the document. */
export function CheckField(props: { pointer: string; label: string; name?: string; bare?: boolean }) {
  const { pointer, label, name, bare } = props;
  const { design, apply } = useDesign();
  const id = useId();
  const box = (
    <input
      id={id}
      type="checkbox"
      className="h-[18px] w-[18px] accent-[var(--water)]"
      aria-label={name}
      checked={Boolean(valueAt(design, pointer))}
      onChange={(event) => {
        const on = event.target.checked;
        apply((current) => withValue(current, pointer, on), pointer);
      }}
    />
  );
  return (
    <Row bare={bare} id={id} label={label}>
      {bare ? box : <span className="pr-[34px]">{box}</span>}
    </Row>
  );
}

/** One of several parts in a bench, under a line of its own. */
export function Item(props: { title: string; quiet?: boolean; "data-source"?: string; children: ReactNode }) {
  const { title, quiet, children, ...rest } = props;
  return (
    <fieldset {...rest} className="m-0 mb-1.5 border-0 border-b border-solid border-hairline p-0 pb-1">
      <legend className={quiet ? "sr-only" : "text-[13px] font-bold"}>{title}</legend>
      {children}
    </fieldset>
  );
}
