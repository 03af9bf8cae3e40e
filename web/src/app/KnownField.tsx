import { createContext, useContext, useId } from "react";
import type { Known, Problem as Told } from "../api/client";
import type { Entries } from "../kit/entries";
import { useUnits } from "../kit/preferences";
import { INPUT, Problem } from "../kit/ui/fields";
import { fieldText, type Kind, parsed, unitOf } from "../kit/units";

/** What has been said of a boat so far; texts that are no number yet stay as they were typed. */
export interface Said {
  known: Partial<Known>;
  texts: Record<string, string>;
}

interface Sheet {
  said: Said;
  entries: Entries;
  problems: Told[];
  put: (name: keyof Known, value: unknown) => void;
  type: (name: string, text: string) => void;
}

export const SheetContext = createContext<Sheet | null>(null);

/** One entry of the sheet, drawn from what the core says of it; `means` is what no choice comes to. */
export function KnownField({
  name,
  width = 84,
  means,
}: {
  name: keyof Known;
  width?: number;
  means?: string;
}) {
  const sheet = useContext(SheetContext);
  const units = useUnits();
  const id = useId();
  if (!sheet) return null;
  const { said, put, type } = sheet;
  const entry = sheet.entries.at(`/${name}`);
  const value = said.known[name];
  if (entry.draws === "choice")
    return (
      <div className="flex min-h-[32px] items-center justify-between gap-2">
        <label htmlFor={id}>{entry.label}</label>
        <select
          id={id}
          className="h-[28px] w-[170px] rounded-[5px] border border-edge bg-field px-1 text-ink"
          value={String(value ?? "")}
          onChange={(event) => put(name, event.target.value || null)}
        >
          {entry.nullable && <option value="">{[entry.empty, means].filter(Boolean).join(": ")}</option>}
          {entry.options.map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </select>
      </div>
    );
  const number = entry.quantity !== undefined;
  const kind = entry.quantity as Kind;
  const text = said.texts[name] ?? (number ? fieldText(value as number, kind, units) : String(value ?? ""));
  const read = number && text.trim() ? parsed(text, kind, units) : null;
  const refused = sheet.problems.find((item) => item.field.endsWith(`/${name}`));
  const wrong =
    read && "problem" in read
      ? read.problem
      : refused && `${refused.message}${refused.accepted ? ` Accepted: ${refused.accepted}.` : ""}`;
  return (
    <div>
      <div className="flex min-h-[32px] items-center justify-between gap-2">
        <span>
          <label htmlFor={id}>{entry.label}</label>
          {entry.hint && <span className="block text-[12.5px] leading-tight text-muted">{entry.hint}</span>}
        </span>
        <span className="flex items-center gap-1.5">
          <input
            id={id}
            className={`${INPUT} ${number ? "" : "text-left!"}`}
            style={{ width: number ? width : 170 }}
            inputMode={number ? "decimal" : undefined}
            maxLength={80}
            value={text}
            aria-invalid={wrong ? true : undefined}
            aria-describedby={wrong ? `${id}-problem` : undefined}
            onChange={(event) => {
              const next = event.target.value;
              type(name, next);
              if (!number) return put(name, next.trim() || undefined);
              if (!next.trim()) return put(name, undefined);
              const found = parsed(next, kind, units);
              put(name, "value" in found ? found.value : undefined);
            }}
          />
          {number && <span className="w-[26px] text-[13px] text-muted">{unitOf(kind, units)[0]}</span>}
        </span>
      </div>
      {wrong && <Problem id={`${id}-problem`} text={wrong} />}
    </div>
  );
}
