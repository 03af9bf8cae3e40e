/** What holds of every page, whatever the boat. */
import { computeAccessibleName } from "dom-accessibility-api";

/** Names without looking up styles: nothing of ours is named by one, and a page without a window is slow at it. */
const unstyled = { getPropertyValue: () => "" } as unknown as CSSStyleDeclaration;
const nameOf = (element: Element) =>
  computeAccessibleName(element, { getComputedStyle: () => unstyled }).trim();

const NOTHING = /\bNaN\b|\bundefined\b|\bInfinity\b|\[object |\bnull\b/;
const GEOMETRY = [
  "d",
  "points",
  "transform",
  "x",
  "y",
  "x1",
  "x2",
  "y1",
  "y2",
  "cx",
  "cy",
  "r",
  "width",
  "height",
];
const FEW = 5; // findings open at once

const about = (element: Element) =>
  `<${element.tagName.toLowerCase()} ${element.id || element.getAttribute("class")?.slice(0, 40) || ""}> ${element.textContent?.slice(0, 60)}`;

/** Words and shapes that say nothing. */
function nothing(page: Element): string[] {
  const found: string[] = [];
  if (!NOTHING.test(page.innerHTML) && !/="-/.test(page.innerHTML)) return found; // as nearly always
  const walker = document.createTreeWalker(page, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode())
    if (NOTHING.test(node.nodeValue ?? "")) found.push(`says ${node.nodeValue?.slice(0, 80)}`);
  for (const element of page.querySelectorAll("*"))
    for (const name of [
      ...GEOMETRY,
      "style",
      "aria-label",
      "aria-valuetext",
      "aria-valuenow",
      "title",
      "placeholder",
    ]) {
      const value = element.getAttribute(name);
      if (value && NOTHING.test(value)) found.push(`${name}="${value.slice(0, 60)}" of ${about(element)}`);
    }
  for (const shape of page.querySelectorAll("rect, circle, svg"))
    for (const name of ["width", "height", "r"])
      if (Number(shape.getAttribute(name) ?? 0) < 0) found.push(`negative ${name} of ${about(shape)}`);
  return found;
}

/** Controls that a person who hears the page cannot tell. */
function nameless(page: Element): string[] {
  const controls =
    "input, select, textarea, button, a[href], summary, [role=slider], [role=tab], [role=img], [role=region]";
  return [...page.querySelectorAll(controls)]
    .filter((element) => !element.closest("[aria-hidden=true]") && nameOf(element) === "")
    .map((element) => `no name: ${element.outerHTML.slice(0, 140)}`);
}

/** One id for one thing, and what refers to one finds it. */
function ids(page: Element): string[] {
  const all = [...page.querySelectorAll("[id]")].map((element) => element.id);
  const twice = all.filter((id, index) => all.indexOf(id) !== index).map((id) => `twice: #${id}`);
  const lost = [...page.querySelectorAll("label[for]")]
    .filter((label) => !document.getElementById(label.getAttribute("for") ?? ""))
    .map((label) => `a label of nothing: ${label.textContent}`);
  return [...twice, ...lost];
}

/** Handles stand within their ends, and say where in words. */
function handles(page: Element): string[] {
  return [...page.querySelectorAll("[role=slider]")].flatMap((handle) => {
    const [low, now, high] = ["min", "now", "max"].map((end) =>
      Number(handle.getAttribute(`aria-value${end}`)),
    );
    const name = nameOf(handle);
    const within = low !== undefined && now !== undefined && high !== undefined && low <= now && now <= high;
    return [
      ...(within ? [] : [`${name}: ${now} is not within ${low} to ${high}`]),
      ...(handle.getAttribute("aria-valuetext") ? [] : [`${name}: its value has no words`]),
    ];
  });
}

/** Few findings, each once, each with its reasons; a number that is none says why. */
function told(page: Element): string[] {
  const aside = page.querySelector("aside.findings");
  const open = [...(aside?.querySelectorAll(":scope > div > ul:first-child > li") ?? [])];
  const titles = [...(aside?.querySelectorAll("h3") ?? [])].map((title) => title.textContent);
  const reasons = aside?.querySelectorAll("button[aria-label^='Why: ']").length ?? 0;
  const cells = [...page.querySelectorAll("[data-cell]")].filter((cell) =>
    /^(none|0([.]0+)?)$/.test(cell.querySelector("[data-value]")?.textContent ?? ""),
  );
  return [
    ...(open.length > FEW ? [`${open.length} findings are open`] : []),
    ...titles.filter((title, i) => titles.indexOf(title) !== i).map((title) => `told twice: ${title}`),
    ...(reasons === titles.length ? [] : [`${titles.length} findings, ${reasons} reasons`]),
    ...cells
      .filter((cell) => cell.children.length < 3)
      .map((cell) => `a zero without its cause: ${cell.textContent}`),
  ];
}

/** Labels of a chart lie on it. */
function labels(page: Element): string[] {
  const number = (element: Element, name: string) =>
    Number.parseFloat(element.getAttribute(name) ?? "0") || 0;
  return [...page.querySelectorAll("svg text")].flatMap((text) => {
    const chart = text.closest("svg") as SVGSVGElement;
    const box = (
      chart.getAttribute("viewBox") ?? `0 0 ${chart.getAttribute("width")} ${chart.getAttribute("height")}`
    )
      .split(/[ ,]+/)
      .map(Number) as [number, number, number, number];
    let [x, y] = [number(text, "x"), number(text, "y")];
    for (let node: Element | null = text; node && node !== chart; node = node.parentElement) {
      const transform = node.getAttribute("transform") ?? "";
      if (/rotate|matrix|scale/.test(transform)) return [];
      const moved = /translate\(\s*([-\d.e]+)(?:[ ,]+([-\d.e]+))?/.exec(transform);
      x += Number(moved?.[1] ?? 0);
      y += Number(moved?.[2] ?? 0);
    }
    const said = text.textContent ?? "";
    const wide =
      text.children.length > 0
        ? 0
        : [...said].reduce((sum, one) => sum + (/[0-9A-Z]/.test(one) ? 7.2 : 5.2), 0);
    const anchor = text.getAttribute("text-anchor") ?? "start";
    const from = x - (anchor === "middle" ? wide / 2 : anchor === "end" ? wide : 0);
    const across = from >= box[0] - 2 && from + wide <= box[0] + box[2];
    const inside = across && y >= box[1] - 2 && y <= box[1] + box[3] + 4;
    return inside || box.some(Number.isNaN)
      ? []
      : [`off its chart, ${from} to ${from + wide}, ${y} of ${box}: ${said}`];
  });
}

/** Everything on a page that breaks a law. */
export const broken = (page: Element): string[] =>
  [nothing, nameless, ids, handles, told, labels].flatMap((law) => law(page));
