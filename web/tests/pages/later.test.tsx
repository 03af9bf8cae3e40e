// @vitest-environment jsdom
/** The stations that keep records, and those that ask for a way or a wish: what is noted, refused and kept. */
import { fireEvent, screen, waitFor, within } from "@testing-library/dom";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { LogReading } from "../../src/api/client";
import { goAway } from "./furnish";
import { left } from "./page";
import { at, begin, boatRecords, design, kept, SOON, stored } from "./person";

beforeEach(begin);
afterEach(left);

const readings = async () => {
  const boat = (await stored()).boat_id;
  const book = await (await fetch(`/api/boats/${boat}/logbook/file`)).json();
  return (book as { readings: LogReading[] }).readings.sort((a, b) => a.at.localeCompare(b.at));
};
const parts = async () => (await boatRecords()).filter((one) => one.kind === "part");

describe("the parts", () => {
  it("take a price, a state and a line of one's own, and stay noted", async () => {
    const page = await at("fitout", "?view=parts");
    const line = page
      .getAllByRole("button", { name: /panel/i })
      .find((one) => one.closest("[aria-label=Parts]"));
    await page.person.click(line as HTMLElement);
    const fields = page.container.querySelector("[data-part]") as HTMLElement;
    await page.person.click(within(fields).getByRole("radio", { name: /have|aboard/i }));
    await page.rest();
    await page.person.type(page.getByLabelText(/^Price/), "321{Enter}"); // the fields may be drawn anew
    await kept((boat) => expect(boat.panels?.[0]?.price).toBe(321)); // of a part of the design it stands there
    await waitFor(async () => expect(await parts()).toMatchObject([{ state: "have" }]), SOON);
    await page.rest();
    await waitFor(() => expect(page.container.textContent).toMatch(/\b321\b/), SOON);
    await page.person.click(page.getByRole("button", { name: "add a part" }));
    await page.person.clear(await screen.findByLabelText("Called"));
    await page.person.type(screen.getByLabelText("Called"), "Second paddle{Enter}");
    await waitFor(
      async () =>
        expect((await boatRecords()).map((one) => ("name" in one ? one.name : ""))).toContain(
          "Second paddle",
        ),
      SOON,
    );
  });

  it("refuse a price in words, beside its field, and keep what was typed", async () => {
    const page = await at("fitout", "?view=parts");
    await page.person.click(page.getByRole("button", { name: "add a part" }));
    const price = (await screen.findByLabelText(/^Price/)) as HTMLInputElement;
    await page.person.type(price, "a lot{Enter}");
    expect([price.value, price.getAttribute("aria-invalid")]).toEqual(["a lot", "true"]);
    expect(document.getElementById(price.getAttribute("aria-describedby") ?? "")?.textContent).toMatch(
      /a lot/,
    );
    await page.person.clear(price);
    await page.person.type(price, "-5{Enter}");
    expect(price.getAttribute("aria-invalid")).toBe("true");
    expect(await parts()).toMatchObject([{ price: null }]);
  });
});

describe("a connecting step", () => {
  it("takes a reading with its unit, says what it means, and is undone", async () => {
    const page = await at("fitout", "?view=connecting");
    const steps = [...page.container.querySelectorAll<HTMLElement>("[data-steps] button")];
    expect(steps.length).toBeGreaterThan(4);
    const asked = () =>
      page.container.querySelector("[data-step] li input[inputmode=decimal]") as HTMLInputElement | null;
    for (const step of steps) if (!asked()) await page.person.click(step);
    const proved = async () => (await boatRecords()).filter((one) => one.kind === "step");
    await page.person.type(asked() as HTMLInputElement, "-13,3 V{Enter}");
    await waitFor(
      async () => expect(await proved()).toMatchObject([{ reading: -13.3, seen: { shadow: "sharp" } }]),
      SOON,
    );
    await waitFor(
      () =>
        expect(page.container.querySelector("[data-step]")?.textContent).toMatch(
          /swapped|reversed|wrong way/i,
        ),
      SOON,
    );
    await page.person.clear(asked() as HTMLInputElement);
    await page.person.type(asked() as HTMLInputElement, "{Enter}");
    await waitFor(async () => expect(await proved()).toEqual([]), SOON);
  });
});

describe("the log", () => {
  it("notes a reading in five seconds, and in words", async () => {
    const page = await at("log");
    const bar = page.getByRole("form", { name: "Note a reading" });
    await page.person.type(within(bar).getByLabelText(/^panels/), "62");
    await page.person.selectOptions(within(bar).getByLabelText("sky"), "hazy");
    await page.person.click(within(bar).getByRole("button", { name: "note it" }));
    expect(await within(bar).findByText(/^Noted at/)).toBeTruthy();
    await page.person.type(within(bar).getByLabelText("in words"), "13.2 V 4 A, weed on the screw{Enter}");
    await page.person.type(within(bar).getByLabelText(/^panels/), "63"); // while the word is still understood
    await page.view("Readings");
    expect((within(bar).getByLabelText(/^panels/) as HTMLInputElement).value).toBe("63");
    await waitFor(() => expect(page.container.textContent).toMatch(/13\.2.*weed on the screw/s), SOON);
    expect(page.container.textContent).toMatch(/62/);
    const receiver = { getCurrentPosition: (tell: PositionCallback) => tell(here as GeolocationPosition) };
    const here = { coords: { latitude: 43.81, longitude: 15.62 } };
    Object.defineProperty(navigator, "geolocation", { value: receiver, configurable: true });
    await page.person.click(within(bar).getByLabelText("with the place"));
    await page.person.click(within(bar).getByRole("button", { name: "note it" }));
    expect(await within(bar).findByText(/Noted at .*, with the place/)).toBeTruthy();
    await waitFor(async () => expect((await readings()).at(-1)?.latitude_deg).toBe(43.81), SOON);
  });

  it("refuses what is no number and no time, and says that nothing is nothing", async () => {
    const page = await at("log");
    const bar = page.getByRole("form", { name: "Note a reading" });
    await page.person.click(within(bar).getByRole("button", { name: "note it" }));
    expect((await within(bar).findByRole("alert")).textContent).toMatch(/Any number/);
    await page.person.type(within(bar).getByLabelText(/^panels/), "many");
    await page.person.type(within(bar).getByLabelText("time"), "25:99{Enter}");
    expect((await within(bar).findByRole("alert")).textContent).toMatch(/many.*A time such as 14:20/);
    expect((within(bar).getByLabelText(/^panels/) as HTMLInputElement).value).toBe("many");
  });

  it("keeps a reading while the server is away, and sends it when it is back", async () => {
    const page = await at("log");
    const bar = page.getByRole("form", { name: "Note a reading" });
    const back = goAway("/api/");
    await page.person.type(within(bar).getByLabelText(/^panels/), "47{Enter}");
    expect(await within(bar).findByText(/^Noted at/)).toBeTruthy();
    await waitFor(() => expect(page.container.textContent).toMatch(/wait|not sent|kept here/i), SOON);
    back();
    await page.view("Readings");
    await waitFor(() => expect(page.container.textContent).toMatch(/47\sW/), SOON);
  });
});

describe("a passage", () => {
  it("begins with a leg, takes another, and refuses a course that is none", async () => {
    const page = await at("passage");
    await page.person.click(page.getAllByRole("button", { name: /passage|way|leg/i })[0] as HTMLElement);
    await kept((boat) => expect(boat.passage?.legs.length).toBeGreaterThan(0));
    const begun = (await design()).passage?.legs.length ?? 0;
    await page.rest();
    await page.person.click(page.getByRole("button", { name: "add a leg" }));
    await kept((boat) => expect(boat.passage?.legs.length).toBe(begun + 1));
    await page.rest();
    const legs = [...page.container.querySelectorAll<HTMLElement>("[data-leg] > button")];
    if (legs.at(-1)?.getAttribute("aria-expanded") === "false")
      await page.person.click(legs.at(-1) as HTMLElement);
    const course = () => page.getAllByLabelText(/^Course/).at(-1) as HTMLInputElement;
    await page.person.clear(course());
    await page.person.type(course(), "400{Enter}");
    await waitFor(() => expect(course().getAttribute("aria-invalid")).toBe("true"), SOON);
    expect(page.container.textContent).toMatch(/Accepted: .*360/);
    await page.person.clear(course());
    await page.person.type(course(), "270{Enter}");
    await kept((boat) => expect(boat.passage?.legs.at(-1)?.course_deg).toBe(270));
    await page.fold(/^Wind and sky/);
    await page.person.click(page.getByRole("button", { name: "by the forecast" }));
    await kept((boat) => expect(boat.passage?.winds?.length).toBe(4));
    await page.rest();
    expect(page.container.textContent).toMatch(/foresees nothing/);
    await page.person.click(page.getByRole("button", { name: "remove wind 2" }));
    await kept((boat) => expect(boat.passage?.winds?.length).toBe(3));
    const [first] = [...page.container.querySelectorAll<HTMLElement>("[data-leg] > button")];
    if (first?.getAttribute("aria-expanded") === "false") await page.person.click(first);
    await page.person.selectOptions(page.getByLabelText("There"), "lock");
    await page.person.click(await page.findByRole("button", { name: "opening hours by the clock" }));
    await kept((boat) =>
      expect(boat.passage?.legs[0]?.hours).toEqual({ opens_at: "08:00:00", shuts_at: "18:00:00" }),
    );
    await page.rest();
    const latitude = () => page.getByLabelText("Lies at latitude, north +") as HTMLInputElement;
    const before = (await design()).passage?.legs[0];
    const there = Number(latitude().value);
    await page.person.clear(latitude());
    await page.person.type(latitude(), `${there + 0.05}{Enter}`);
    await kept((boat) => expect(boat.passage?.legs[0]?.course_deg).not.toBe(before?.course_deg));
    await page.rest();
    expect(Number(latitude().value)).toBeCloseTo(there + 0.05, 3);
    await page.person.clear(latitude());
    await page.person.type(latitude(), `${there - 40}{Enter}`);
    expect(
      await page.findByText(/A leg to there is too long, or none. Accepted: a place 5 m to 460 km/),
    ).toBeTruthy();
    await page.fold(/^Places/);
    await page.person.click(page.getByRole("button", { name: "something to keep off" }));
    await kept((boat) => expect(boat.passage?.keep_off?.map((one) => one.clear_m)).toEqual([185.2]));
    const out = (await design()).passage;
    await page.rest();
    await page.person.click(page.getByRole("button", { name: "turn the way round" }));
    await kept((boat) => expect(boat.passage?.begins_at).toBe(out?.legs.at(-1)?.name));
    expect((await design()).passage?.legs.map((one) => one.name)).toEqual([
      ...(out?.legs.slice(0, -1).map((one) => one.name) ?? []).reverse(),
      out?.begins_at,
    ]);
  });
});

describe("a wish", () => {
  it("is stated, bent, joined by another and taken back", async () => {
    const page = await at("wish");
    await page.person.click(page.getAllByRole("button", { name: /wish/i })[0] as HTMLElement);
    await kept((boat) => expect(boat.wish?.asks?.length).toBe(1));
    await page.rest();
    await page.person.click(page.getByRole("button", { name: "and also …" }));
    await kept((boat) => expect(boat.wish?.asks?.length).toBe(2));
    await page.person.click(page.getByRole("button", { name: "Undo" }));
    await kept((boat) => expect(boat.wish?.asks?.length).toBe(1));
  });
});

describe("a new boat", () => {
  it("answers while it is filled, tells what cannot be beside its entry, and begins", async () => {
    const page = await at("hull");
    await page.menu(/New boat/);
    const sheet = await screen.findByRole("dialog");
    await page.person.click(await within(sheet).findByRole("button", { name: "Skiff" }));
    await page.person.type(within(sheet).getByLabelText("Name"), "Dabchick");
    await page.person.type(within(sheet).getByLabelText("Length overall"), "4.2");
    await page.person.type(within(sheet).getByLabelText("or at the waterline"), "9");
    await waitFor(
      () =>
        expect(within(sheet).getByLabelText("or at the waterline").getAttribute("aria-invalid")).toBe("true"),
      SOON,
    );
    expect(sheet.textContent).toMatch(/A waterline is no longer than the boat\..*4\.2 m or less/);
    await page.person.clear(within(sheet).getByLabelText("or at the waterline"));
    await page.person.type(within(sheet).getByLabelText("All-up weight"), "500 lb");
    await waitFor(
      () =>
        expect(within(sheet).getByLabelText("or at the waterline").getAttribute("aria-invalid")).toBeNull(),
      SOON,
    );
    await waitFor(() => expect(sheet.textContent).toMatch(/Sun-only speed\s*[\d.]+/), SOON);
    fireEvent.click(within(sheet).getByRole("button", { name: "Start" }));
    await waitFor(() => expect(window.location.pathname).not.toContain("undefined"), SOON);
    await waitFor(() => expect(page.getByRole("button", { name: /^Boat: Dabchick/ })).toBeTruthy(), SOON);
    await page.rest();
    expect(page.field("All-up weight").placeholder || page.field("All-up weight").value).toMatch(/^2(27|30)/);
  });
});
