// @vitest-environment jsdom
/** Two windows and one boat; boats that are duplicated, removed and brought back; a design as a file. */
import { screen, waitFor, within } from "@testing-library/dom";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { BoatDesign } from "../../src/api/client";
import { left } from "./page";
import { at, begin, design, kept, SOON, stored, theVariant } from "./person";

beforeEach(begin);
afterEach(left);

/** Another window saves the boat. */
async function elsewhere(change: (boat: BoatDesign) => BoatDesign) {
  const now = await stored();
  const body = JSON.stringify({ revision: now.revision, design: change(now.design) });
  const headers = { "Content-Type": "application/json" };
  const reply = await fetch(`/api/variants/${theVariant()}`, { method: "PUT", headers, body });
  expect(reply.status).toBe(200);
}
const heavier = (boat: BoatDesign): BoatDesign => ({
  ...boat,
  loading: boat.loading && { ...boat.loading, gear_kg: 33 },
});
const boats = async () => (await (await fetch("/api/boats")).json()) as { id: string; name: string }[];

describe("another window", () => {
  it("that saved meanwhile is told with what differs, and mine goes over it where I say so", async () => {
    const page = await at("hull");
    await elsewhere(heavier);
    await page.type("Waterline length", "4.4");
    const asked = await screen.findByRole("alertdialog", { name: "Changed in another window" }, SOON);
    const rows = [...asked.querySelectorAll("tbody tr")].map((row) => row.textContent);
    expect(rows.some((row) => /gear.*33/i.test(row ?? ""))).toBe(true);
    expect(rows.some((row) => /waterline length.*4\.4/i.test(row ?? ""))).toBe(true);
    expect((await design()).loading?.gear_kg).toBe(33); // nothing is overwritten yet
    await page.person.click(within(asked).getByRole("button", { name: "Keep mine" }));
    await kept((boat) => expect(boat.hull.waterline_length_m).toBe(4.4));
    expect((await design()).loading?.gear_kg).not.toBe(33);
    const past = (await (await fetch(`/api/variants/${theVariant()}/history`)).json()) as {
      design: BoatDesign;
    }[];
    expect(past.some((row) => row.design.loading?.gear_kg === 33)).toBe(true); // theirs is in the history
  });

  it("is taken where I say so, and mine is one undo away", async () => {
    const page = await at("hull");
    await elsewhere(heavier);
    await page.type("Waterline length", "4.4");
    const asked = await screen.findByRole("alertdialog", { name: "Changed in another window" }, SOON);
    await page.person.click(within(asked).getByRole("button", { name: "Take the other" }));
    await waitFor(() => expect(page.field("Waterline length").value).not.toBe("4.4"), SOON);
    expect((await design()).loading?.gear_kg).toBe(33);
    await page.person.click(page.getByRole("button", { name: "Undo" }));
    await kept((boat) =>
      expect([boat.hull.waterline_length_m, boat.loading?.gear_kg !== 33]).toEqual([4.4, true]),
    );
  });

  it("that removed the boat is told, and she can be kept as a new one", async () => {
    const page = await at("hull");
    const gone = await stored();
    await fetch(`/api/boats/${gone.boat_id}`, { method: "DELETE" });
    await page.type("Waterline length", "4.6");
    const asked = await screen.findByRole("alertdialog", { name: /was removed in another window/ }, SOON);
    await page.person.click(within(asked).getByRole("button", { name: "Keep as a new boat" }));
    await waitFor(() => expect(window.location.pathname).not.toContain(theVariant()), SOON);
    await page.rest();
    const id = window.location.pathname.split("/").at(-1) ?? "";
    expect((await stored(id)).design.hull.waterline_length_m).toBe(4.6);
  });
});

describe("boats", () => {
  it("are duplicated and opened, removed, and brought back by the one thing that the notice offers", async () => {
    const page = await at("bank");
    const before = (await boats()).length;
    const here = window.location.pathname;
    await page.menu("Duplicate");
    await waitFor(() => expect(window.location.pathname).not.toBe(here), SOON);
    await page.rest();
    expect([(await boats()).length, window.location.pathname.startsWith("/bank/")]).toEqual([
      before + 1,
      true,
    ]);
    await page.menu("Delete");
    expect(await screen.findByText(/ is deleted\.$/, undefined, SOON)).toBeTruthy();
    expect((await boats()).length).toBe(before);
    const notice = screen.getByText(/ is deleted\.$/).closest(".sheet") as HTMLElement;
    await page.person.click(within(notice).getByRole("button", { name: "Undo" }));
    await waitFor(async () => expect((await boats()).length).toBe(before + 1), SOON);
  });

  it("come from a file, and one that is none is refused in words", async () => {
    const page = await at("hull");
    const before = (await boats()).length;
    const file = page.getByLabelText("Design file") as HTMLInputElement;
    await page.person.upload(
      file,
      new File(['{"schema_name": "a song"}'], "song.json", { type: "application/json" }),
    );
    expect(await screen.findByText(/^song\.json was not opened\./, undefined, SOON)).toBeTruthy();
    expect((await boats()).length).toBe(before);
    const mine = { ...(await design()), name: "From a file" };
    await page.person.upload(
      file,
      new File([JSON.stringify(mine)], "mine.json", { type: "application/json" }),
    );
    expect(await screen.findByText(/From a file is opened as a new boat\./, undefined, SOON)).toBeTruthy();
    await page.rest();
    expect((await boats()).some((row) => row.name === "From a file")).toBe(true);
  });
});
