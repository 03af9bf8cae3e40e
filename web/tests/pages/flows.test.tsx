// @vitest-environment jsdom
/** What a person does on a page, and what becomes of it: typed, undone, refused, away and back. */
import { screen, waitFor, within } from "@testing-library/dom";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { goAway } from "./furnish";
import { goes, left } from "./page";
import { at, begin, design, kept, SOON, theVariant } from "./person";

beforeEach(begin);
afterEach(left);

describe("an entry", () => {
  it("that is typed is kept, moves the rail, and is undone and done again", async () => {
    const page = await at("hull");
    const [was, run] = [page.field("All-up weight").value, page.rail()];
    await page.type("All-up weight", "240");
    await kept((boat) => expect(boat.hull.displacement_kg).toBe(240));
    await page.rest();
    expect(page.rail()).not.toEqual(run);
    await page.person.click(page.getByRole("button", { name: "Undo" }));
    await page.rest();
    expect([page.field("All-up weight").value, page.rail()]).toEqual([was, run]);
    await page.person.click(page.getByRole("button", { name: "Redo" }));
    await kept((boat) => expect(boat.hull.displacement_kg).toBe(240));
  });

  it("that cannot be stays in its field with what would be accepted, over a walk to another station", async () => {
    const page = await at("hull");
    const before = await design();
    await page.type("Waterline length", "long");
    await waitFor(
      () => expect(page.field("Waterline length").getAttribute("aria-invalid")).toBe("true"),
      SOON,
    );
    const told = document.getElementById(
      page.field("Waterline length").getAttribute("aria-describedby") ?? "",
    );
    expect(told?.textContent).toMatch(/long.*is not a (number|length)/i);
    await page.type("Waterline length", "900");
    await waitFor(() => expect(page.container.textContent).toMatch(/Accepted: .* m/), SOON);
    goes(`/bank/${theVariant()}`);
    await page.rest();
    goes(`/hull/${theVariant()}`);
    await page.rest();
    expect(page.field("Waterline length").value).toBe("900");
    await waitFor(
      () => expect(page.field("Waterline length").getAttribute("aria-invalid")).toBe("true"),
      SOON,
    );
    expect((await design()).hull).toEqual(before.hull);
    await page.person.type(page.field("Waterline length"), "{Escape}");
    expect(page.field("Waterline length").value).not.toBe("900");
  });

  it("is read in the units a person chose, and in others as they are written", async () => {
    const page = await at("hull");
    await page.person.click(page.getByRole("button", { name: /^Boat: / }));
    for (const unit of ["mph", "lb", "ft"])
      await page.person.click(await screen.findByRole("menuitemradio", { name: unit }));
    await page.person.keyboard("{Escape}");
    await page.type("All-up weight", "500");
    await kept((boat) => expect(boat.hull.displacement_kg).toBeCloseTo(226.8, 1));
    await page.type("Waterline length", "4.5 m");
    await kept((boat) => expect(boat.hull.waterline_length_m).toBeCloseTo(4.5, 6));
    await page.rest();
    expect(page.field("Waterline length").value).toBe("14.76");
    expect(page.container.querySelector(".rail-cells")?.textContent).toMatch(/mph.*\bmi\b/);
  });
});

describe("a list", () => {
  it("takes another part, whose typed words go with it and not into the next one", async () => {
    const page = await at("bank");
    await page.fold(/^House/);
    const before = ((await design()).loads ?? []).length;
    for (const watts of ["11", "22", "33"]) {
      await page.person.selectOptions(
        page.getByLabelText("Add a usual load"),
        page.getAllByRole("option", { name: /light/i })[0] as HTMLElement,
      );
      await page.rest();
      const fields = page.getAllByLabelText(/watts$/i).filter((one) => one instanceof HTMLInputElement);
      await page.person.clear(fields.at(-1) as HTMLElement);
      await page.person.type(fields.at(-1) as HTMLElement, `${watts}{Enter}`);
      await page.rest();
    }
    await kept((boat) =>
      expect((boat.loads ?? []).slice(before).map((load) => load.power_w)).toEqual([11, 22, 33]),
    );
  });
});

describe("a variant", () => {
  it("is kept, compared with, and shows what an edit changed against it", async () => {
    const page = await at("hull");
    await page.person.click(page.getByRole("button", { name: "Keep as variant" }));
    await page.person.type(await screen.findByLabelText("Call it"), "before the cake");
    await page.person.click(screen.getByRole("button", { name: "Keep and compare" }));
    await waitFor(() => expect(page.container.textContent).toContain("compared with: before the cake"), SOON);
    await page.type("All-up weight", "140");
    await kept((boat) => expect(boat.hull.displacement_kg).toBe(140));
    await page.rest();
    const change = page.container.querySelector("[title='against the kept variant']");
    expect(change?.textContent).toMatch(/^−[\d.]+\s/);
    expect(window.location.search).toMatch(/compare=/);
  });

  it("has a history in words, from which a state is brought back", async () => {
    const page = await at("hull");
    await page.type("All-up weight", "150");
    await kept((boat) => expect(boat.hull.displacement_kg).toBe(150));
    await waitFor(
      () => expect(page.getByRole("button", { name: /^Boat: / }).textContent).toContain("saved"),
      SOON,
    );
    await page.menu(/^History/);
    const dialog = await screen.findByRole("dialog");
    await within(dialog).findByText(/weight: .* → /i, undefined, SOON);
    await page.person.click(
      within(dialog)
        .getAllByRole("button", { name: /^Restore/ })
        .at(-1) as HTMLElement,
    );
    await kept((boat) => expect(boat.hull.displacement_kg).not.toBe(150));
  });
});

describe("the server", () => {
  it("that is away for a while loses nothing, and the page says so until it is saved", async () => {
    const page = await at("hull");
    const back = goAway("/api/");
    await page.type("All-up weight", "175");
    await waitFor(() => expect(page.container.textContent).toMatch(/did not answer|not saved/i), SOON);
    expect(page.field("All-up weight").value).toBe("175");
    expect(page.getByRole("button", { name: /^Boat: / }).textContent).not.toMatch(/· saved/);
    back();
    await kept((boat) => expect(boat.hull.displacement_kg).toBe(175));
    await waitFor(
      () => expect(page.getByRole("button", { name: /^Boat: / }).textContent).toMatch(/· saved/),
      SOON,
    );
  });

  it("that cannot say what the rail is keeps the old one, marked, and answers by itself later", async () => {
    const page = await at("day");
    const was = page.rail();
    const back = goAway("/api/live");
    await page.type("Speed", "2");
    await waitFor(
      () => expect(page.container.querySelector(".rail [role=alert]")?.textContent).toMatch(/did not answer/),
      SOON,
    );
    expect(page.rail()).toEqual(was);
    back();
    await waitFor(() => expect(page.container.querySelector(".rail [role=alert]")).toBeNull(), SOON);
    await page.rest();
    expect(page.rail()).not.toEqual(was);
  });
});

describe("a reason", () => {
  it("opens with its inputs, method and source, and gives the focus back", async () => {
    const page = await at("hull");
    const why = page.getAllByRole("button", { name: /^Why: / })[0] as HTMLElement;
    await page.person.click(why);
    const told = await screen.findByRole("dialog");
    expect(told.textContent).toMatch(/Method .+docs\/methods\//);
    expect(told.querySelectorAll("dt").length).toBeGreaterThan(1);
    await page.person.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(document.activeElement).toBe(why);
  });
});

describe("the keys", () => {
  it("go to stations, undo and turn the boat, but not while something is typed", async () => {
    const page = await at("hull");
    const was = (await design()).plan.heading_deg ?? null;
    await page.person.keyboard("2");
    await page.rest();
    expect(window.location.pathname).toMatch(/^\/bank\//);
    await page.person.keyboard("..,");
    await kept((boat) => expect(boat.plan.heading_deg).toBe((was ?? 0) + 5));
    await page.person.keyboard("u");
    await kept((boat) => expect(boat.plan.heading_deg ?? null).toBe(was));
    await page.person.keyboard("1");
    await page.rest();
    await page.person.click(page.field("All-up weight"));
    await page.person.keyboard("3");
    expect(window.location.pathname).toMatch(/^\/hull\//);
    expect(page.field("All-up weight").value).toContain("3");
    await page.person.keyboard("{Escape}");
    (document.activeElement as HTMLElement).blur();
    await page.person.keyboard("?");
    expect((await screen.findByRole("dialog")).textContent).toMatch(/turn the boat/i);
  });
});
