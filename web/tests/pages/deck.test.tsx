// @vitest-environment jsdom
/** Array and Day as they are worked at: places and panels added and taken away, hours, things in the sun. */
import { waitFor } from "@testing-library/dom";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { left } from "./page";
import { at, begin, design, kept, SOON } from "./person";

beforeEach(begin);
afterEach(left);

describe("a place", () => {
  it("that is added is the one looked at, has a position and panels, and goes with all that is its own", async () => {
    const page = await at("array");
    const before = (await design()).places ?? [];
    await page.person.click(page.getByRole("button", { name: "add a place" }));
    await kept((boat) => expect(boat.places?.length).toBe(before.length + 1));
    await page.rest();
    const place = (await design()).places?.at(-1);
    expect(place?.at).toBeTruthy();
    const chosen = page.container.querySelector(`[data-place=${place?.id}]`);
    expect(chosen?.getAttribute("aria-pressed")).toBe("true");
    await page.fold(/^Panels on it/);
    if (!(await design()).panels?.some((group) => group.place_id === place?.id)) {
      await page.person.click(page.getByRole("button", { name: "put panels here" }));
      await kept((boat) => expect(boat.panels?.some((group) => group.place_id === place?.id)).toBe(true));
    }
    const all = (await design()).panels ?? [];
    const own = all.filter((group) => group.place_id === place?.id);
    expect(own.length).toBeGreaterThan(0);
    await page.person.click(page.getByRole("button", { name: "Undo" }));
    await kept((boat) => expect(boat.panels?.length).toBeLessThan(all.length));
    while (((await design()).places ?? []).length > before.length) {
      await page.person.click(page.getByRole("button", { name: "Undo" }));
      await page.rest();
    }
    expect((await design()).places).toEqual(before);
  });

  it("stands where it is said to stand: heights and tilts move the picture and the sums", async () => {
    const page = await at("array");
    await page.fold(/^Where it is/);
    const height = page
      .getAllByLabelText("Height")
      .find((one) => one instanceof HTMLInputElement) as HTMLInputElement;
    await page.person.clear(height);
    await page.person.type(height, "0.9{Enter}");
    await kept((boat) => expect(boat.places?.[0]?.at?.z_m).toBe(0.9));
    await page.rest();
    expect(page.container.querySelector("[data-place]")?.textContent).toMatch(/0\.9\d?\sm up/);
  });
});

describe("a pair", () => {
  it("is made of one place by a button, and set alike by another", async () => {
    const page = await at("array");
    const name = (await design()).places?.[0]?.name ?? "";
    await page.fold(/^Where it is/);
    await page.type("To starboard", "-0.3");
    await kept((boat) => expect(boat.places?.[0]?.at?.x_m).toBe(-0.3));
    await page.person.click(await page.findByRole("button", { name: "the same on the other side" }));
    await kept((boat) => expect(boat.places?.at(-1)?.at?.x_m).toBe(0.3));
    await page.rest();
    const other = (await design()).places?.at(-1);
    expect(other?.name).toBe(`${name}, starboard`);
    expect(page.container.querySelector("[data-place][aria-pressed=true]")?.textContent).toContain(
      other?.name,
    );
    expect(page.queryByRole("button", { name: "the same on the other side" })).toBeNull();
    await page.fold(/^How it stands/);
    await page.type("Tilt; flat is 0", "25");
    await kept((boat) => expect(boat.places?.at(-1)?.tilt_deg).toBe(25));
    await page.person.click(await page.findByRole("button", { name: `set ${name} as this one` }));
    await kept((boat) => expect(boat.places?.[0]?.tilt_deg).toBe(25));
    await page.rest();
    expect(page.queryByRole("button", { name: /^set .* as this one/ })).toBeNull();
  });
});

describe("panels", () => {
  it("of other watts change the total and what the day brings", async () => {
    const page = await at("array");
    await page.fold(/^Panels on it/);
    const total = () => page.container.querySelector("[data-total]")?.textContent;
    const was = total();
    await page.type(/^Watts each|^Nameplate|^Panel, watts/, "90");
    await kept((boat) => expect(boat.panels?.[0]?.nameplate_w).toBe(90));
    await page.rest();
    expect(total()).not.toBe(was);
    const count = (await design()).panels?.[0]?.count ?? 1;
    expect(total()).toMatch(new RegExp(`${90 * count}\\sW`));
  });
});

describe("what stands in the sun", () => {
  it("is added as what it is, and its shade has a price", async () => {
    const page = await at("array");
    await page.fold(/^Standing in the sun/);
    for (const [words, shape] of [
      ["add a spar", "spar"],
      ["a box", "box"],
      ["a sail", "sail"],
    ] as const) {
      await page.person.click(page.getByRole("button", { name: words }));
      await kept((boat) => expect(boat.obstacles?.at(-1)?.shape).toBe(shape));
      await page.rest();
    }
    const things = (await design()).obstacles ?? [];
    expect(new Set(things.map((thing) => thing.id)).size).toBe(things.length);
    await page.person.click(page.getAllByRole("button", { name: "remove" })[0] as HTMLElement);
    await kept((boat) => expect(boat.obstacles?.length).toBe(things.length - 1));
    expect((await design()).obstacles?.some((thing) => thing.id === things[0]?.id)).toBe(false);
  });
});

describe("the hours", () => {
  it("are one's own, a day at rest, or the useful sun", async () => {
    const page = await at("day");
    await page.person.click(page.getByRole("button", { name: "add hours" }));
    await kept((boat) => expect(boat.plan.spells?.length).toBe(3));
    await page.person.click(page.getByRole("button", { name: "at rest" }));
    await kept((boat) => expect(boat.plan.spells).toEqual([]));
    await page.rest();
    expect(page.container.textContent).toContain("A day at rest: no motoring.");
    await page.person.click(page.getByRole("button", { name: "use the useful sun" }));
    await kept((boat) => expect(boat.plan.spells).toBeNull());
    await page.rest();
    expect(page.container.textContent).toMatch(/The useful sun, \d\d:\d\d to \d\d:\d\d\./);
  });

  it("refuse what is no time of day, and read a time as people write it", async () => {
    const page = await at("day");
    const begins = page.getAllByLabelText(/^Spell 1.*(from|starts|begins)/i)[0] as HTMLInputElement;
    await page.person.clear(begins);
    await page.person.type(begins, "25:10{Enter}");
    await waitFor(() => expect(begins.getAttribute("aria-invalid")).toBe("true"), SOON);
    expect(document.getElementById(begins.getAttribute("aria-describedby") ?? "")?.textContent).toMatch(
      /“25:10” is not a time of day\. Write it as 09:30 or 17:00\./,
    );
    await page.person.clear(begins);
    await page.person.type(begins, "8{Enter}");
    await kept((boat) => expect(boat.plan.spells?.[0]?.starts_at).toBe("08:00:00"));
  });
});
