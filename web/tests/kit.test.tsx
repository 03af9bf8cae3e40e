// @vitest-environment jsdom
/** The parts that every station is made of: numbers of records, files, sheets, reasons, handles, notices. */
import "./bare";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Sentence, Why } from "../src/api/client";
import { Handle } from "../src/kit/chart/Handle";
import { Readable } from "../src/kit/chart/Readable";
import { Working } from "../src/kit/chart/Working";
import { PreferencesProvider, usePreferences } from "../src/kit/preferences";
import { ToastProvider, useToast } from "../src/kit/Toast";
import { Alone } from "../src/kit/ui/Alone";
import { AskField } from "../src/kit/ui/AskField";
import { Fold } from "../src/kit/ui/Fold";
import { OwnField, OwnText } from "../src/kit/ui/OwnField";
import { ReadFile } from "../src/kit/ui/ReadFile";
import { Told } from "../src/kit/ui/Told";
import { WhyPopover } from "../src/kit/ui/WhyPopover";
import { Window } from "../src/kit/ui/Window";

vi.stubGlobal("PointerEvent", MouseEvent);
File.prototype.text = function (this: File) {
  return new Promise((done) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result));
    reader.readAsText(this);
  });
};

const person = userEvent.setup({ delay: null });
const shown = (what: ReactNode) => render(<PreferencesProvider>{what}</PreferencesProvider>);
const box = (name: string | RegExp) => screen.getByLabelText(name) as HTMLInputElement;
const problemOf = (field: HTMLInputElement) =>
  document.getElementById(field.getAttribute("aria-describedby") ?? "none")?.textContent ?? null;

beforeEach(() => localStorage.clear());
afterEach(cleanup);

describe("a number of a record", () => {
  const field = (onValue: (value: number | null) => void, more = {}) => (
    <OwnField label="Price" kind="mass_kg" low={0} high={100} value={12} onValue={onValue} {...more} />
  );

  it("is kept on Enter and when the field is left, once, and not when nothing changed", async () => {
    const told = vi.fn();
    shown(field(told));
    await person.clear(box("Price"));
    await person.type(box("Price"), "34,5{Enter}");
    expect(told.mock.calls).toEqual([[34.5]]);
    await person.type(box("Price"), "{Enter}");
    await person.clear(box("Price"));
    await person.type(box("Price"), "12");
    await person.tab();
    expect(told.mock.calls).toEqual([[34.5]]);
    await person.clear(box("Price"));
    await person.tab();
    expect(told.mock.calls).toEqual([[34.5], [null]]);
  });

  it("says what it accepts in the unit that is read, keeps what was typed, and gives way to Escape", async () => {
    const told = vi.fn();
    shown(field(told));
    await person.clear(box("Price"));
    await person.type(box("Price"), "700{Enter}");
    expect([problemOf(box("Price")), box("Price").value, told.mock.calls]).toEqual([
      "▲Accepted: 0 to 100 kg.",
      "700",
      [],
    ]);
    await person.clear(box("Price"));
    await person.type(box("Price"), "heavy{Enter}");
    expect(problemOf(box("Price"))).toMatch(/heavy/);
    await person.type(box("Price"), "{Escape}");
    expect([problemOf(box("Price")), box("Price").value]).toEqual([null, "12"]);
  });

  it("is not lost when the field goes", async () => {
    const told = vi.fn();
    const page = shown(field(told));
    await person.clear(box("Price"));
    await person.type(box("Price"), "8");
    page.rerender(<PreferencesProvider>gone</PreferencesProvider>);
    expect(told.mock.calls).toEqual([[8]]);
  });

  it("has only a lower end where it has no upper one", async () => {
    shown(field(vi.fn(), { high: undefined, low: 5 }));
    await person.clear(box("Price"));
    await person.type(box("Price"), "1{Enter}");
    expect(problemOf(box("Price"))).toBe("▲5 kg or more.");
  });

  it("in words is kept when it is left, and when its field goes", async () => {
    const told = vi.fn();
    const page = shown(<OwnText label="Note" value="old" onValue={told} />);
    await person.type(box("Note"), " and new");
    await person.tab();
    await person.type(box("Note"), " or not{Escape}");
    await person.tab();
    await person.type(box("Note"), "er");
    page.rerender(<PreferencesProvider>gone</PreferencesProvider>);
    expect(told.mock.calls).toEqual([["old and new"], ["older"]]);
  });
});

describe("a number that is asked of a study", () => {
  it("goes on within its ends alone", async () => {
    const told = vi.fn();
    shown(<AskField label="Hours" kind="duration_h" value={3} low={0.5} high={72} onValue={told} />);
    await person.clear(box("Hours"));
    await person.type(box("Hours"), "90{Enter}");
    expect([told.mock.calls, problemOf(box("Hours"))]).toEqual([[], "▲Accepted: 0.5 to 72 h."]);
    await person.clear(box("Hours"));
    await person.type(box("Hours"), "4,5{Enter}");
    expect([told.mock.calls, problemOf(box("Hours"))]).toEqual([[[4.5]], null]);
  });
});

describe("a sentence", () => {
  const sentence = {
    text: "{v} takes {w} over {d}",
    slots: {
      v: { quantity: "speed_mps", value: 2.0578, signed: false },
      w: { quantity: "power_w", value: 1234, signed: false },
      d: { quantity: "distance_m", value: 18520, signed: false },
    },
  } as unknown as Sentence;

  function Chooser() {
    const { units, change } = usePreferences();
    return (
      <button type="button" onClick={() => change({ units: { ...units, speed: "mph" } })}>
        mph
      </button>
    );
  }

  it("follows the units that a person reads, at once", async () => {
    const { container } = shown(
      <>
        <p>
          <Told sentence={sentence} />
        </p>
        <Chooser />
      </>,
    );
    const said = () => container.querySelector("p")?.textContent?.replaceAll(/\s/g, " ");
    expect(said()).toBe("4.0 kn takes 1,234 W over 10.0 nm");
    await person.click(screen.getByRole("button"));
    expect(said()).toBe("4.6 mph takes 1,234 W over 11.5 mi");
  });

  it("has its reasons: inputs, band, method, source and what was assumed", async () => {
    const why = {
      method: "Holtrop and Mennen",
      source: "A paper of 1984.",
      band: { text: "9 boats of 10", slots: {} },
      inputs: [{ label: "Draught", value: { quantity: "length_m", value: 0.3, signed: false } }],
      doc: "holtrop",
    } as unknown as Why;
    shown(
      <WhyPopover title="Watts" why={why} assumes={sentence} reason={{ text: "No bank", slots: {} }}>
        <button type="button">why</button>
      </WhyPopover>,
    );
    await person.click(screen.getByRole("button", { name: "why" }));
    const told = await screen.findByRole("dialog", { name: "Why: Watts" });
    for (const said of [
      /No bank/,
      /Assumes 4\.0.kn/,
      /Band: 9 boats of 10\./,
      /Draught0\.3/,
      /Method Holtrop and Mennen/,
      /1984.*docs\/methods\/holtrop\.md/s,
    ])
      expect(told.textContent).toMatch(said);
    await person.keyboard("{Escape}");
    expect(screen.queryByRole("dialog")).toBeNull();
    expect(document.activeElement).toBe(screen.getByRole("button", { name: "why" }));
  });
});

describe("a fold", () => {
  function Bench() {
    const [open, setOpen] = useState(false);
    return (
      <Fold title="Load" summary="as weighed" open={open} onOpen={setOpen}>
        <label>
          Crew <input />
        </label>
      </Fold>
    );
  }

  it("says what is inside while it is shut, and opens by pointer and by keys", async () => {
    shown(<Bench />);
    const heading = screen.getByRole("button", { name: /Load/ });
    expect([heading.textContent, heading.getAttribute("aria-expanded")]).toEqual([
      "▸Loadas weighed",
      "false",
    ]);
    expect(screen.queryByLabelText(/Crew/)).toBeNull();
    await person.click(heading);
    expect([heading.textContent, box(/Crew/).value]).toEqual(["▾Load", ""]);
    heading.focus();
    await person.keyboard("{Enter}");
    expect(screen.queryByLabelText(/Crew/)).toBeNull();
  });
});

describe("a file", () => {
  const ask = (
    read: (
      text: string,
    ) => Promise<{ said?: string; problems: { line: number; message: string; accepted?: string }[] }>,
  ) =>
    shown(
      <ReadFile
        label="runs"
        name="A table of runs"
        accept=".csv"
        mostBytes={60}
        tooLarge="More than 60 bytes."
        read={read}
      />,
    );
  const given = (text: string) => new File([text], "runs.csv", { type: "text/csv" });

  it("is read, and what was wrong in it stands line by line, the first few of many", async () => {
    const wrong = Array.from({ length: 9 }, (_, n) => ({
      line: n + 2,
      message: `no watts ${n}`,
      accepted: "a number",
    }));
    const read = vi.fn(async () => ({ said: "3 runs are in.", problems: wrong }));
    ask(read);
    await person.upload(box("A table of runs"), given("kn;W\n3;200"));
    expect(await screen.findByText("3 runs are in.")).toBeTruthy();
    expect(read.mock.calls[0]?.[0 as never]).toBe("kn;W\n3;200");
    const lines = within(screen.getByRole("alert")).getAllByRole("listitem");
    expect(lines.map((line) => line.textContent)).toEqual([
      ...wrong.slice(0, 6).map((one) => `▲ Line ${one.line}: ${one.message} Accepted: a number.`),
      "and 3 more",
    ]);
    expect(box("A table of runs").value).toBe(""); // the same one may be given again
  });

  it("that is too large is not read, and one that cannot be read is told", async () => {
    const read = vi.fn(async () => Promise.reject(new Error("away")));
    ask(read);
    await person.upload(box("A table of runs"), given("x".repeat(100)));
    expect((await screen.findByRole("alert")).textContent).toContain("More than 60 bytes.");
    expect(read).not.toHaveBeenCalled();
    await person.upload(box("A table of runs"), given("kn"));
    await waitFor(() =>
      expect(screen.getByRole("alert").textContent).toContain("could not be read; try again"),
    );
  });
});

describe("a sheet", () => {
  it("has its name and its line, holds the focus, and closes by key and by button", async () => {
    function Page() {
      const [open, setOpen] = useState(false);
      return (
        <>
          <button type="button" onClick={() => setOpen(true)}>
            open
          </button>
          <Window
            open={open}
            onOpen={setOpen}
            title="History"
            about="Every state."
            width={300}
            closing="Close"
          >
            <input aria-label="within" />
          </Window>
        </>
      );
    }
    shown(<Page />);
    await person.click(screen.getByRole("button", { name: "open" }));
    const sheet = screen.getByRole("dialog", { name: "History" });
    expect(document.getElementById(sheet.getAttribute("aria-describedby") ?? "")?.textContent).toBe(
      "Every state.",
    );
    expect(sheet.contains(document.activeElement)).toBe(true);
    for (let n = 0; n < 4; n++) {
      await person.tab();
      expect(sheet.contains(document.activeElement)).toBe(true);
    }
    await person.keyboard("{Escape}");
    expect(screen.queryByRole("dialog")).toBeNull();
    await person.click(screen.getByRole("button", { name: "open" }));
    await person.click(screen.getByRole("button", { name: "Close" }));
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});

describe("what fails", () => {
  const quiet = vi.spyOn(console, "error").mockImplementation(() => {});
  afterEach(() => quiet.mockClear());
  let broken = true;
  function Fragile(): ReactNode {
    if (broken) throw new Error("a picture that cannot be drawn");
    return <p>drawn</p>;
  }

  it("fails alone, says so in words, and is tried again", async () => {
    broken = true;
    shown(
      <>
        <Alone what="The tank">
          <Fragile />
        </Alone>
        <p>the rail</p>
      </>,
    );
    expect(screen.getByText("the rail")).toBeTruthy();
    expect(screen.getByRole("alert").textContent).toMatch(
      /The tank cannot be shown.*Your boat is as you left it/s,
    );
    broken = false;
    await person.click(screen.getByRole("button", { name: "Try again" }));
    expect(screen.getByText("drawn")).toBeTruthy();
  });

  it("as long work says why and goes on; while it works it says how far and can be ended", async () => {
    const [retry, stop] = [vi.fn(), vi.fn()];
    const run = { busy: true, progress: 0.42, error: null as Error | null, retry, stop };
    const page = shown(<Working run={run} doing="Weighing boats" what="The front" />);
    expect(screen.getByText(/42.%/)).toBeTruthy();
    expect(screen.getByRole("progressbar", { name: "Weighing boats" }).getAttribute("value")).toBe("0.42");
    await person.click(screen.getByRole("button", { name: "stop" }));
    const failed = { ...run, busy: false, error: new Error("No boat does.") };
    page.rerender(
      <PreferencesProvider>
        <Working run={failed} doing="Weighing boats" what="The front" />
      </PreferencesProvider>,
    );
    expect(screen.getByRole("alert").textContent).toMatch(/The front could not be computed\. No boat does\./);
    await person.click(screen.getByRole("button", { name: "Try again" }));
    expect([stop.mock.calls.length, retry.mock.calls.length]).toEqual([1, 1]);
  });
});

describe("a notice", () => {
  it("stands until it is put away, and does its one thing once", async () => {
    const undone = vi.fn();
    function Page() {
      const toast = useToast();
      const say = (text: string) => toast({ text, action: { label: "Undo", run: undone } });
      return (
        <button type="button" onClick={() => say("Teal is deleted.")}>
          delete
        </button>
      );
    }
    shown(
      <ToastProvider>
        <Page />
      </ToastProvider>,
    );
    await person.click(screen.getByRole("button", { name: "delete" }));
    await person.click(screen.getByRole("button", { name: "Undo" }));
    expect([undone.mock.calls.length, screen.queryByText("Teal is deleted.")]).toEqual([1, null]);
    await person.click(screen.getByRole("button", { name: "delete" }));
    await person.click(screen.getByRole("button", { name: "Put this notice away" }));
    expect([undone.mock.calls.length, screen.queryByText("Teal is deleted.")]).toEqual([1, null]);
  });
});

describe("what is dragged", () => {
  it("moves by pointer from where the chart begins, and by keys in small and large steps", () => {
    const [dragged, stepped, passed] = [vi.fn(), vi.fn(), vi.fn()];
    shown(
      <svg width="300" height="60" role="img" aria-label="A day" onKeyDown={passed}>
        <Handle label="Hour" most={24} now={9} text="09:00" onDrag={dragged} onStep={stepped} />
      </svg>,
    );
    const handle = screen.getByRole("slider", { name: "Hour" });
    vi.spyOn(handle.closest("svg") as Element, "getBoundingClientRect").mockReturnValue({
      left: 40,
    } as DOMRect);
    expect(["min", "now", "max"].map((end) => handle.getAttribute(`aria-value${end}`))).toEqual([
      "0",
      "9",
      "24",
    ]);
    fireEvent.pointerDown(handle, { pointerId: 1, clientX: 100 });
    fireEvent.pointerMove(handle, { clientX: 140 });
    fireEvent.pointerUp(handle, { clientX: 140 });
    fireEvent.pointerMove(handle, { clientX: 200 });
    expect(dragged.mock.calls).toEqual([[100]]); // until it is let go
    for (const key of ["ArrowRight", "ArrowDown", "PageUp", "PageDown", "a"])
      fireEvent.keyDown(handle, { key });
    expect(stepped.mock.calls.map(([by]) => by)).toEqual([1, -1, 6, -6]);
    expect(passed.mock.calls.length).toBe(1); // what it does not know goes on to the page
  });

  it("is read by pointer and by keys, and says what it reads", () => {
    const [read, step] = [vi.fn(), vi.fn()];
    const box = { current: null };
    const page = shown(
      <Readable
        box={box}
        width={300}
        height={100}
        label="The day"
        said="13:20, in 612 W"
        onRead={read}
        onStep={step}
      >
        <g />
      </Readable>,
    );
    const chart = screen.getByRole("group", { name: "The day" });
    fireEvent.pointerMove(chart, { clientX: 120 });
    fireEvent.pointerLeave(chart);
    fireEvent.keyDown(chart, { key: "ArrowLeft" });
    fireEvent.blur(chart);
    expect([read.mock.calls, step.mock.calls]).toEqual([[[120], [null], [null]], [[-1]]]);
    expect(page.container.querySelector("[aria-live=polite]")?.textContent).toBe("13:20, in 612 W");
  });
});
