/**
 * The entries of a design as its published schema has them: their words, what they are, what a new part begins
 * with, and which parts name which others.
 */
import type { BoatDesign } from "../api/client";
import { valueAt, withValue } from "./pointer";
import type { Kind } from "./units";

/** What is read of the JSON Schema. */
interface Node {
  $ref?: string;
  $defs?: Record<string, Node>;
  anyOf?: Node[];
  type?: string;
  format?: string;
  title?: string;
  description?: string;
  default?: unknown;
  examples?: unknown[];
  enum?: string[];
  labels?: Record<string, string>;
  items?: Node;
  properties?: Record<string, Node>;
  minItems?: number;
  maxItems?: number;
  minLength?: number;
  maxLength?: number;
  minimum?: number;
  maximum?: number;
  quantity?: Kind;
  step?: number;
  unit?: string;
  of?: string;
  empty?: string;
}

export type Option = readonly [string, string];
type Part = Record<string, unknown>;

export interface Entry {
  label: string;
  hint: string;
  draws: "number" | "text" | "clock" | "date" | "check" | "choice";
  quantity: Kind | undefined;
  step: number | undefined;
  unit: string | undefined;
  nullable: boolean;
  least: number | undefined; // both ends belong to it
  most: number | undefined;
  letters: number | undefined; // at most
  begins: unknown; // where nothing is said
  mayBeEmpty: boolean; // an empty text is a value
  options: readonly Option[];
  empty: string | undefined; // the words of no choice
}

const parts = (pointer: string) => pointer.split("/").slice(1);
const lower = (word: string) =>
  word[1] && word[1] === word[1].toUpperCase() ? word : word.charAt(0).toLowerCase() + word.slice(1);

export class Entries {
  constructor(private readonly schema: Node) {}

  /** A definition or one of several kinds, in the place of what refers to it; its own words come first. */
  private whole(node: Node): Node & { nullable?: boolean } {
    if (node.$ref) {
      const { $ref, ...own } = node;
      return this.whole({ ...this.schema.$defs?.[$ref.split("/").pop() ?? ""], ...own });
    }
    if (!node.anyOf) return node;
    const { anyOf, ...own } = node;
    const kind = anyOf.find((item) => item.type !== "null") ?? {};
    return { ...this.whole(kind), ...own, nullable: anyOf.some((item) => item.type === "null") };
  }

  private node(pointer: string): Node & { nullable?: boolean } {
    let node = this.whole(this.schema);
    for (const part of parts(pointer)) {
      const inner = node.items ?? node.properties?.[part];
      if (!inner) throw new Error(`no entry of a design: ${pointer}`);
      const { quantity, step, title, items } = node;
      node = this.whole(inner);
      if (items) node = { ...node, title, ...(node.properties ? {} : { quantity, step }) };
    }
    return node;
  }

  at(pointer: string, design?: BoatDesign): Entry {
    const node = this.node(pointer);
    const formats: Record<string, Entry["draws"]> = { time: "clock", date: "date" };
    const chosen = node.labels !== undefined || node.of !== undefined;
    const draws = chosen
      ? "choice"
      : node.type === "boolean"
        ? "check"
        : node.quantity
          ? "number"
          : (formats[node.format ?? ""] ?? "text");
    const named = node.of && design ? (valueAt(design, `/${node.of}`) as Part[]) : [];
    return {
      label: node.title ?? "",
      hint: node.description ?? "",
      draws,
      quantity: node.quantity,
      step: node.step,
      unit: node.unit,
      nullable: node.nullable ?? false,
      least: node.minimum,
      most: node.maximum,
      letters: node.maxLength,
      begins: node.default,
      mayBeEmpty: node.type === "string" && !node.minLength && node.default === "",
      options: node.of
        ? named.map((item) => [String(item.id), String(item.name ?? item.id)] as const)
        : Object.entries(node.labels ?? {}),
      empty: node.empty,
    };
  }

  /** The words of an entry's choices, by value. */
  words(pointer: string): Record<string, string> {
    return this.chosen(pointer).labels ?? {};
  }

  /** What one is chosen from; of a list, what its items are. */
  private chosen(pointer: string): Node {
    const node = this.node(pointer);
    return node.items ? this.whole(node.items) : node;
  }

  /** The choices of an entry, in their order. */
  options(pointer: string): readonly Option[] {
    const node = this.chosen(pointer);
    return (node.enum ?? Object.keys(node.labels ?? {})).map((value) => [
      value,
      node.labels?.[value] ?? value,
    ]);
  }

  /** An entry with the part it is of, such as "Load 1, watts". */
  named(pointer: string): string {
    const path = parts(pointer);
    const at = path.findLastIndex((part) => /^\d+$/.test(part));
    const label = this.at(pointer).label;
    if (at < 1) return label;
    const list = this.node(`/${path.slice(0, at).join("/")}`).title ?? "";
    const item = `${list} ${Number(path[at]) + 1}`;
    return at === path.length - 1 ? item : `${item}, ${lower(label)}`;
  }

  /** What an entry begins with: its first example, or a part with its defaults and the example that is like it. */
  begun(pointer: string, like: Part = {}): unknown {
    const node = this.node(pointer);
    if (!node.properties) return node.examples?.[0] ?? null;
    const examples = (node.examples ?? []) as Part[];
    const example = examples.find((item) =>
      Object.keys(item).some((key) => key in like && item[key] === like[key]),
    );
    const begun: Part = {};
    for (const [name, entry] of Object.entries(node.properties))
      if (this.whole(entry).default !== undefined) begun[name] = this.whole(entry).default;
    return { ...begun, ...(example ?? examples[0]), ...like };
  }

  /** Whether a list may hold one more. */
  hasRoom(design: BoatDesign, list: string): boolean {
    const held = (valueAt(design, list) ?? []) as unknown[];
    return held.length < (this.node(list).maxItems ?? Number.POSITIVE_INFINITY);
  }

  /** A design with one more part in a list: begun as usual, with an id and a name of its own. */
  withNew(design: BoatDesign, list: string, like: Part = {}): BoatDesign {
    const node = this.node(`${list}/0`);
    const held = (valueAt(design, list) ?? []) as Part[];
    const part = this.begun(`${list}/0`, like) as Part;
    const title = node.title ?? "part";
    if (node.properties?.id && !part.id) part.id = fresh(title.toLowerCase().replaceAll(/\W+/g, "-"));
    if (node.properties?.name && !like.name) {
      const name = String(part.name ?? title);
      part.name = held.some((item) => item.name === name) || !part.name ? `${name} ${held.length + 1}` : name;
    }
    return withValue(design, list, [...held, part]);
  }

  /** A design without a part of a list, and without what names it: a choice of it falls back to none. */
  without(design: BoatDesign, list: string, id: string): BoatDesign {
    let left = design;
    const gone: [string, string][] = [[list, id]];
    for (const [from, own] of gone) {
      const kept = ((valueAt(left, from) ?? []) as Part[]).filter((item) => item.id !== own);
      left = withValue(left, from, kept);
      const lost = (name: string, item: Part) => gone.push([name, String(item.id)]);
      left = this.freed(
        this.whole(this.schema),
        left as Part,
        from.slice(1),
        own,
        lost,
      ) as unknown as BoatDesign;
    }
    return left;
  }

  /** A piece whose entries no longer name a part that is gone; null where it cannot be without it. */
  private freed(
    node: Node,
    value: Part,
    list: string,
    id: string,
    lost?: (list: string, item: Part) => void,
  ): Part | null {
    const next: Part = { ...value };
    for (const [name, entry] of Object.entries(node.properties ?? {})) {
      const whole = this.whole(entry);
      const held = value[name];
      if (whole.of === list && held === id) {
        if (!whole.nullable) return null;
        next[name] = null;
      } else if (Array.isArray(held) && whole.items) {
        const item = this.whole(whole.items);
        if (!item.properties) continue;
        const kept = held.flatMap((part: Part) => {
          const free = this.freed(item, part, list, id);
          if (free === null) lost?.(`/${name}`, part);
          return free === null ? [] : [free];
        });
        if (held.length && !kept.length && whole.minItems) return null;
        next[name] = kept;
      }
    }
    return next;
  }
}

export const fresh = (what: string) => `${what}-${crypto.randomUUID().slice(0, 8)}`;
