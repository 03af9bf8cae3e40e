// @vitest-environment jsdom
/** Boats of several kinds at every station, in every view, with every fold open. */
import { fireEvent, waitFor } from "@testing-library/dom";
import { afterEach, describe, expect, it } from "vitest";
import { STATIONS } from "../../src/app/stations";
import { server } from "./furnish";
import { broken } from "./laws";
import { left, opened, settled } from "./page";
import { SOON } from "./person";

afterEach(left);

describe.each(server.boats)("$name", ({ variant }) => {
  it.each(STATIONS.map((station) => station.key))("%s", async (station) => {
    const { container } = await opened(station, variant);
    const found: string[] = [];
    const look = async (where: string) => {
      await settled(container);
      for (const fold of container.querySelectorAll("h2 button[aria-expanded=false]")) fireEvent.click(fold);
      await settled(container);
      found.push(...broken(document.body).map((what) => `${where}: ${what}`));
    };
    await look("at first");
    const views = [...container.querySelectorAll("[role=tablist] [role=tab]")].map(
      (tab) => tab.textContent ?? "",
    );
    for (const view of views.slice(1)) {
      const tab = [...container.querySelectorAll("[role=tab]")].find((one) => one.textContent === view);
      fireEvent.mouseDown(tab as Element, { button: 0 });
      await look(view);
    }
    expect(found).toEqual([]);
  });
});

describe.each(server.boats.slice(0, 1))("what is dragged on $name", ({ variant }) => {
  const sliders = (page: Element) => [...page.querySelectorAll<HTMLElement>("[role=slider]")];
  const told = (slider?: HTMLElement) => Number(slider?.getAttribute("aria-valuenow"));

  it.each(["hull", "array", "day"])("moves by keys too, and back again: %s", async (station) => {
    const { container } = await opened(station, variant);
    const pressed = async (index: number, key: string) => {
      const was = told(sliders(container)[index]);
      fireEvent.keyDown(sliders(container)[index] as HTMLElement, { key });
      await waitFor(() => expect(told(sliders(container)[index])).not.toBe(was), SOON); // drawn when there is time
      await settled(container);
      return told(sliders(container)[index]);
    };
    expect(sliders(container).length).toBeGreaterThan(0);
    for (let index = 0; index < sliders(container).length; index++) {
      const was = told(sliders(container)[index]);
      const words = sliders(container)[index]?.getAttribute("aria-valuetext");
      expect(await pressed(index, "ArrowRight")).toBeGreaterThan(was);
      expect(sliders(container)[index]?.getAttribute("aria-valuetext")).not.toBe(words);
      expect(await pressed(index, "ArrowLeft")).toBeCloseTo(was, 6);
    }
  });
});
