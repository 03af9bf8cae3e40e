import { useDesign } from "../document";
import { valueAt, withValue } from "../pointer";

/** An entry that holds several of a few: each with a box to tick, in a row. */
export function Several({ at, short }: { at: string; short?: number }) {
  const { design, apply, entries } = useDesign();
  const entry = entries.at(at, design);
  const options = entries.options(at);
  const held = (valueAt(design, at) as string[] | null | undefined) ?? [];
  const set = (value: string, on: boolean) =>
    apply((current) => {
      const now = (valueAt(current, at) as string[] | null | undefined) ?? [];
      const next = options.map(([key]) => key).filter((key) => (key === value ? on : now.includes(key)));
      return withValue(current, at, next);
    }, at);
  return (
    <fieldset className="m-0 mb-1.5 border-0 p-0" data-several={at}>
      <legend className="p-0 text-[13px]">{entry.label}</legend>
      {entry.hint && <span className="block text-[12.5px] text-muted">{entry.hint}</span>}
      <span className={`flex flex-wrap gap-y-0.5 ${short ? "justify-between" : "gap-x-3"}`}>
        {options.map(([value, words]) => (
          <label
            key={value}
            className={`flex min-h-[24px] items-center ${short ? "gap-0.5" : "gap-1"} text-[13px]`}
          >
            <input
              type="checkbox"
              aria-label={short ? words : undefined}
              className="accent-[var(--water)]"
              checked={held.includes(value)}
              onChange={(event) => set(value, event.target.checked)}
            />
            {short ? <span aria-hidden="true">{words.slice(0, short)}</span> : words}
          </label>
        ))}
      </span>
    </fieldset>
  );
}
