// @vitest-environment jsdom
/** The frame: the course line and its warnings, the rail and what it says of nothing, findings and their fold. */
import "./bare";
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, describe, expect, it } from "vitest";
import type { Answers, Finding, RailCell } from "../src/api/client";
import { AnswerRail } from "../src/app/AnswerRail";
import { CourseLine } from "../src/app/CourseLine";
import { Findings } from "../src/app/Findings";
import { STATIONS } from "../src/app/stations";
import { PreferencesProvider } from "../src/kit/preferences";

afterEach(cleanup);
const person = userEvent.setup({ delay: null });
const shown = (what: ReactNode) =>
  render(
    <PreferencesProvider>
      <MemoryRouter initialEntries={["/bank/v1?compare=k"]}>
        <Routes>
          <Route path="/:station/:variantId" element={what} />
        </Routes>
      </MemoryRouter>
    </PreferencesProvider>,
  );
const plain = (text: string | null | undefined) => text?.replaceAll(/\s/g, " ");
const words = (text: string) => ({ text, slots: {} });
const why = { method: "A sum", source: "A book.", inputs: [], band: null, doc: "day" };

describe("the course line", () => {
  it("leads to every station in the order of the work, says where one is and what is open, and keeps the address", () => {
    shown(
      <CourseLine warnings={{ hull: 1, array: 3 }}>
        <span>tools</span>
      </CourseLine>,
    );
    const links = within(screen.getByRole("navigation", { name: "Stations" })).getAllByRole("link");
    expect(links.map((link) => plain(link.querySelector("span")?.textContent))).toEqual(
      STATIONS.map((station) => station.label),
    );
    expect(links.map((link) => link.getAttribute("href"))).toEqual(
      STATIONS.map((station) => `/${station.key}/v1?compare=k`),
    );
    expect(
      links.filter((link) => link.getAttribute("aria-current") === "page").map((link) => link.textContent),
    ).toEqual(["Bank"]);
    expect(screen.getByRole("link", { name: /Hull\s*, 1 open warning$/ })).toBeTruthy();
    expect(screen.getByRole("link", { name: /Array\s*, 3 open warnings$/ })).toBeTruthy();
  });
});

const cell = (more: Partial<RailCell>): RailCell =>
  ({
    key: "sun_only_steady",
    label: "Sun-only speed",
    value: { quantity: "speed_mps", value: 2.0578, signed: false },
    lines: [],
    reason: null,
    mend: null,
    assumes: words("such a day"),
    why,
    band: null,
    change: null,
    ...more,
  }) as unknown as RailCell;
const answers = (rail: RailCell[]) => ({ rail, assumes: words("13 June, broken sky") }) as unknown as Answers;
const rail = (cells: RailCell[], more: Partial<Parameters<typeof AnswerRail>[0]> = {}) => (
  <AnswerRail answers={answers(cells)} own={null} stale={false} error={null} {...more}>
    <span>keep</span>
  </AnswerRail>
);

describe("the rail", () => {
  it("says each number with its unit, band and lines, and reads it out once it has settled", () => {
    const { container } = shown(
      rail([
        cell({
          band: [1.8, 2.3].map((value) => ({ quantity: "speed_mps", value, signed: false })) as never,
          lines: [words("over 9 h"), words("noon 4.1"), words("third")],
        }),
        cell({
          key: "dusk",
          label: "Bank at dusk",
          value: null,
          reason: words("There is no bank."),
          mend: "bank",
          lines: [words("one"), words("two")],
        }),
      ]),
    );
    const [speed, dusk] = [...container.querySelectorAll("[data-cell]")].map((one) => plain(one.textContent));
    expect(speed).toBe("Sun-only speed4.0kn3.5 to 4.5over 9 hnoon 4.1");
    expect(dusk).toBe("Bank at dusknoneThere is no bank.one"); // nothing says why, and has room for one line
    expect(plain(container.querySelector("[aria-live=polite]")?.textContent)).toBe("Sun-only speed 4.0 kn");
    expect(container.textContent).toContain("13 June, broken sky");
  });

  it("is dimmed and silent while it is an older answer, and says that it is one when none came", () => {
    const page = shown(rail([cell({})], { stale: true }));
    expect(page.container.querySelector(".rail-cells")?.getAttribute("aria-busy")).toBe("true");
    expect(page.container.querySelector("[aria-live=polite]")?.textContent).toBe("");
    cleanup();
    shown(rail([cell({})], { error: new Error("The server did not answer.") }));
    expect(screen.getByRole("alert").textContent).toMatch(
      /did not answer\. These are the answers from before\./,
    );
    cleanup();
    const none = shown(rail([], { answers: undefined, error: new Error("It sinks.") }));
    expect(none.container.textContent).toContain("No answer: It sinks.");
  });

  it("shows what changed against a kept variant, and not a change of nothing", () => {
    const changed = (value: number) =>
      cell({
        change: { quantity: "speed_mps", value, signed: true } as never,
        band: [1, 3].map((one) => ({ quantity: "speed_mps", value: one, signed: false })) as never,
      });
    const page = shown(rail([changed(0.51444)]));
    const chip = () => plain(page.container.querySelector("[title='against the kept variant']")?.textContent);
    expect([chip(), page.container.querySelector("[data-ends]")]).toEqual(["+1.0 kn", null]);
    cleanup();
    const still = shown(rail([changed(0.001)]));
    expect(still.container.querySelector("[title='against the kept variant']")).toBeNull();
  });

  it("gives way to a station's own cells, but never loses the sun-only speed and what holds back", () => {
    const [arrives, run, held] = [
      cell({ key: "arrives", label: "Arrives" }),
      cell({ key: "days_run", label: "Day's run" }),
      cell({ key: "held_back_by", label: "Held back by" }),
    ];
    const own = { cells: [arrives], assumes: words("leaving at ten") };
    const { container } = shown(rail([cell({}), run, held], { own: own as never }));
    expect(
      [...container.querySelectorAll("[data-cell]")].map((one) => one.getAttribute("data-cell")),
    ).toEqual(["arrives", "sun_only_steady", "held_back_by"]);
    expect(container.textContent).toContain("leaving at ten");
  });

  it("opens its reasons, with the way to where a nothing is mended", async () => {
    shown(rail([cell({ value: null, reason: words("No panels."), mend: "array" })]));
    await person.click(screen.getByRole("button", { name: /Sun-only speed/ }));
    const told = await screen.findByRole("dialog", { name: "Why: Sun-only speed" });
    expect(within(told).getByRole("link", { name: "mend it at Array" }).getAttribute("href")).toBe(
      "/array/v1",
    );
    expect(told.textContent).toContain("Assumes such a day.");
  });
});

describe("findings", () => {
  const finding = (id: string, more = {}) =>
    ({
      id,
      level: "note",
      title: words(`Title ${id}`),
      detail: words("Detail."),
      why,
      caution: false,
      field: null,
      ...more,
    }) as unknown as Finding;

  it("are five at once, the rest folded; cautions of harm always stand, after them", () => {
    const many = Array.from({ length: 8 }, (_, n) =>
      finding(String(n), { level: n === 0 ? "warn" : "note" }),
    );
    const page = shown(
      <Findings
        title="What it tells"
        findings={[...many, finding("live", { caution: true })]}
        stale={false}
      />,
    );
    const aside = screen.getByRole("complementary", { name: "What it tells" });
    const folded = aside.querySelector("details");
    expect(folded?.querySelector("summary")?.textContent).toBe("3 more");
    expect([...(folded?.querySelectorAll("h3") ?? [])].map((one) => one.textContent)).toEqual([
      "Title 5",
      "Title 6",
      "Title 7",
    ]);
    expect(folded?.hasAttribute("open")).toBe(false);
    const lists = [...aside.querySelectorAll("ul")];
    expect(lists.at(-1)?.textContent).toContain("Title live");
    expect(page.getAllByRole("button", { name: /^Why: Title/, hidden: true }).length).toBe(9);
  });

  it("say that they are being worked out, and dim while they are of before", () => {
    const page = shown(<Findings title="Told" findings={undefined} stale />);
    expect(page.container.textContent).toContain("Working it out …");
    cleanup();
    const old = shown(<Findings title="Told" findings={[finding("a")]} stale />);
    expect(old.container.querySelector(".opacity-60")).not.toBeNull();
  });
});
