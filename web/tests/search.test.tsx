// @vitest-environment jsdom
/** The address: changes soon after each other, and one made after the person went on. */
import "./bare";
import { act, fireEvent, render, screen } from "@testing-library/react";
import { BrowserRouter, Link, Route, Routes } from "react-router";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { useSearch } from "../src/kit/search";
import { Views } from "../src/kit/ui/Views";

let late: () => void = () => {};

function Station({ name }: { name: string }) {
  const [search, change] = useSearch();
  late = () => change((now) => now.set("outing", "late"));
  const twice = () => {
    change((now) => now.set("outing", "one"));
    change((now) => now.set("view", "second"), true);
  };
  return (
    <>
      <p>{`${name} ${search.toString()}`}</p>
      <button type="button" onClick={twice}>
        both
      </button>
      <Link to="/other">on</Link>
      <Views
        label="Views"
        views={[
          ["first", "First"],
          ["second", "Second"],
        ]}
      >
        {(view) => <p>{`view ${view}`}</p>}
      </Views>
    </>
  );
}

const shown = () =>
  render(
    <BrowserRouter>
      <Routes>
        <Route path="/here" element={<Station name="here" />} />
        <Route path="/other" element={<Station name="other" />} />
      </Routes>
    </BrowserRouter>,
  );

beforeEach(() => window.history.pushState(null, "", "/here?compare=x"));
afterEach(() => document.body.replaceChildren());

describe("the address", () => {
  it("takes two changes at once, and keeps what else stands in it", () => {
    shown();
    fireEvent.click(screen.getByText("both"));
    expect(window.location.search).toBe("?compare=x&outing=one&view=second");
    expect(screen.getByText("here compare=x&outing=one&view=second")).toBeTruthy();
    expect(screen.getByText("view second")).toBeTruthy();
  });

  it("is not led back by a change that comes after the person went on", () => {
    shown();
    const before = late;
    fireEvent.click(screen.getByText("on"));
    act(() => before());
    expect(window.location.pathname + window.location.search).toBe("/other?outing=late");
    expect(screen.getByText("other outing=late")).toBeTruthy();
  });

  it("says the first view by nothing, and any other by its name", () => {
    shown();
    const go = (name: string) => fireEvent.mouseDown(screen.getByRole("tab", { name }), { button: 0 });
    go("Second");
    expect(window.location.search).toBe("?compare=x&view=second");
    go("First");
    expect(window.location.search).toBe("?compare=x");
    window.history.pushState(null, "", "/here?view=none-such");
    act(() => window.dispatchEvent(new PopStateEvent("popstate")));
    expect(screen.getByText("view first")).toBeTruthy();
  });
});
