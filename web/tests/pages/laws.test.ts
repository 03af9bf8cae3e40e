// @vitest-environment jsdom
/** The laws of a page find what they are there to find. */
import { afterEach, expect, it } from "vitest";
import { broken } from "./laws";

afterEach(() => {
  document.body.innerHTML = "";
});

const found = (html: string) => {
  document.body.innerHTML = html;
  return broken(document.body);
};

it("nothing is wrong with a page that is right", () => {
  const page = `
    <label for="a">Boat</label><input id="a" /><button>Undo</button>
    <svg width="200" height="100"><g transform="translate(150, 20)"><text x="10" y="70">12:00</text></g>
      <g role="slider" aria-label="Hour" aria-valuemin="0" aria-valuenow="3" aria-valuemax="9" aria-valuetext="three"></g>
      <path d="M0 0 L 3.5 4"/></svg>
    <div data-cell="dusk"><span>Bank at dusk</span><span data-value>none</span><span>There is no bank.</span></div>
    <aside class="findings"><h2>Told</h2><p></p><div><ul><li><h3>One</h3><button aria-label="Why: One">why</button></li>
    </ul></div></aside>`;
  expect(found(page)).toEqual([]);
});

it.each([
  ["a number that is none", "<p>about NaN kn</p>", "says about NaN kn"],
  ["a shape of none", '<svg width="9" height="9"><path d="M0 NaN"/></svg>', 'd="M0 NaN"'],
  [
    "a width below nothing",
    '<svg width="9" height="9"><rect width="-3" height="2"/></svg>',
    "negative width",
  ],
  ["a word of the program", '<input aria-label="undefined" />', 'aria-label="undefined"'],
  ["a button without a name", "<button><svg></svg></button>", "no name: <button>"],
  ["one id for two", '<p id="a"></p><p id="a"></p>', "twice: #a"],
  ["a label of nothing", '<label for="gone">Watts</label>', "a label of nothing: Watts"],
  [
    "a handle beyond its end",
    '<g role="slider" aria-label="Hour" aria-valuemin="0" aria-valuenow="9" aria-valuemax="5" aria-valuetext="x"></g>',
    "Hour: 9 is not within 0 to 5",
  ],
  [
    "a handle without words",
    '<g role="slider" aria-label="Hour" aria-valuemin="0" aria-valuenow="1" aria-valuemax="5"></g>',
    "Hour: its value has no words",
  ],
  [
    "a zero without its cause",
    '<div data-cell="run"><span>Run</span><span data-value>0.0</span></div>',
    "a zero without its cause: Run0.0",
  ],
  ["one told twice", '<aside class="findings"><h3>A</h3><h3>A</h3></aside>', "told twice: A"],
  ["a finding without reasons", '<aside class="findings"><h3>A</h3></aside>', "1 findings, 0 reasons"],
  [
    "too many at once",
    `<aside class="findings"><div><ul>${"<li></li>".repeat(6)}</ul></div></aside>`,
    "6 findings are open",
  ],
  [
    "a label off its chart",
    '<svg width="90" height="50"><g transform="translate(80 0)"><text x="20" y="9">noon</text></g></svg>',
    "off its chart, 100 to 120.8, 9 of 0,0,90,50: noon",
  ],
])("tells %s", (_, html, told) => {
  expect(found(html).some((what) => what.includes(told))).toBe(true);
});
