/** Reading and replacing one entry of a document by its JSON Pointer, without touching the rest. */

function parts(pointer: string): string[] {
  return pointer
    .split("/")
    .slice(1)
    .map((part) => part.replaceAll("~1", "/").replaceAll("~0", "~"));
}

export function valueAt(document: unknown, pointer: string): unknown {
  let value = document;
  for (const part of parts(pointer)) {
    if (value === null || typeof value !== "object") return undefined;
    value = (value as Record<string, unknown>)[part];
  }
  return value;
}

export function withValue<T>(document: T, pointer: string, value: unknown): T {
  return replaced(document, parts(pointer), value) as T;
}

function replaced(node: unknown, path: string[], value: unknown): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return value;
  if (Array.isArray(node)) {
    const copy = [...node];
    copy[Number(key)] = replaced(copy[Number(key)], rest, value);
    return copy;
  }
  const record = (node ?? {}) as Record<string, unknown>;
  return { ...record, [key]: replaced(record[key], rest, value) };
}

/** A pointer that stays with its entry when the list about it changes: by the id of a list's item, or else by
 * its place in a list of that length. */
export function named(document: unknown, pointer: string): string {
  let value = document;
  const words = [];
  for (const part of parts(pointer)) {
    const item = (value as Record<string, unknown> | null | undefined)?.[part];
    if (!Array.isArray(value)) words.push(part);
    else words.push(idOf(item) === undefined ? `${part}of${value.length}` : `#${idOf(item)}`);
    value = item;
  }
  return `/${words.join("/")}`;
}

/** Where a named entry is now; null once it is gone. */
export function placed(document: unknown, name: string): string | null {
  let value = document;
  const found = [];
  for (const word of parts(name)) {
    let part = word;
    if (Array.isArray(value)) {
      const [at, length] = word.split("of");
      const index = word.startsWith("#")
        ? value.findIndex((item) => idOf(item) === word.slice(1))
        : Number(length) === value.length
          ? Number(at)
          : -1;
      if (index < 0) return null;
      part = String(index);
    }
    found.push(part);
    value = (value as Record<string, unknown> | null | undefined)?.[part];
  }
  return `/${found.join("/")}`;
}

const idOf = (item: unknown) => (item as { id?: string } | null | undefined)?.id;
