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
