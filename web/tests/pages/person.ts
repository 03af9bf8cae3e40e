/** A person at a page, with a boat of their own. */
import { fireEvent, screen, waitFor } from "@testing-library/dom";
import userEvent from "@testing-library/user-event";
import type { BoatDesign, OneRecord, VariantOut } from "../../src/api/client";
import { server } from "./furnish";
import { aside, opened, settled } from "./page";

/** A machine that runs every test at once is slow; looked at now and then, not at every change of the page. */
export const SOON = { timeout: 90_000, interval: 80, container: aside };
let variant = "";
export const theVariant = () => variant;

export const stored = async (id = variant): Promise<VariantOut> =>
  (await fetch(`/api/variants/${id}`)).json();
export const design = async (): Promise<BoatDesign> => (await stored()).design;
/** Until the server has it. */
export const kept = (check: (boat: BoatDesign) => void) => waitFor(async () => check(await design()), SOON);

/** Each begins with a boat of its own. */
export async function begin() {
  const first = await stored(server.boats[0]?.variant);
  const made = await fetch(`/api/boats/${first.boat_id}/duplicate`, { method: "POST" });
  variant = ((await made.json()) as { variants: { id: string }[] }).variants[0]?.id ?? "";
}

export async function at(station: string, search = "") {
  const person = userEvent.setup({ delay: null });
  const page = await opened(station, variant, search);
  const field = (name: string | RegExp) => page.getAllByLabelText(name)[0] as HTMLInputElement;
  const type = async (name: string | RegExp, text: string) => {
    await person.clear(field(name));
    await person.type(field(name), `${text}{Enter}`);
  };
  const menu = async (item: string | RegExp) => {
    await person.click(page.getByRole("button", { name: /^Boat: / }));
    await person.click(await screen.findByRole("menuitem", { name: item }));
  };
  const view = async (name: string) => {
    fireEvent.mouseDown(page.getByRole("tab", { name }), { button: 0 });
    await settled(page.container);
  };
  const fold = async (title: RegExp) => {
    const heading = page
      .getAllByRole("button", { name: title })
      .find((one) => one.hasAttribute("aria-expanded"));
    if (heading?.getAttribute("aria-expanded") === "false") await person.click(heading);
  };
  const rail = () =>
    [...page.container.querySelectorAll("[data-cell] [data-value]")].map((one) => one.textContent);
  return { ...page, person, field, type, menu, view, fold, rail, rest: () => settled(page.container) };
}

export const boatRecords = async (): Promise<OneRecord[]> => {
  const found = await fetch(`/api/boats/${(await stored()).boat_id}/records`);
  return ((await found.json()) as { records: OneRecord[] }).records;
};
