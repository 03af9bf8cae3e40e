/** The whole application in a page without a window, before a server that answers: as a person opens it. */
import "./furnish";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { configure, waitFor, within } from "@testing-library/dom";
import { flushSync } from "react-dom";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { Workspace } from "../../src/app/Workspace";
import { PreferencesProvider } from "../../src/kit/preferences";
import { ToastProvider } from "../../src/kit/Toast";

const leaving: (() => void)[] = [];

/** Opens a boat at a station, and waits until nothing on the page is an older answer or still to come. */
export async function opened(station: string, variant: string, search = "") {
  const queries = new QueryClient({
    defaultOptions: { queries: { refetchOnWindowFocus: false, retry: false } },
  });
  window.history.pushState(null, "", `/${station}/${variant}${search}`);
  const container = document.body.appendChild(document.createElement("div"));
  const root = createRoot(container);
  leaving.push(() => {
    root.unmount();
    container.remove();
  });
  root.render(
    <PreferencesProvider>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Routes>
            <Route
              path="/:station/:variantId"
              element={
                <ToastProvider>
                  <Workspace />
                </ToastProvider>
              }
            />
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </PreferencesProvider>,
  );
  await settled(container);
  return { ...within(document.body), container };
}

const WAITS = "[role=status][aria-label^=Computing], .opacity-75, .opacity-70, .opacity-60, [aria-busy=true]";

const tick = () => new Promise((gone) => setTimeout(gone, 10));

configure({
  defaultHidden: true, // looking up styles is what a page without a window is slow at
  eventWrapper: (event) => flushSync(event), // what an event changes is drawn before the next
  asyncWrapper: async (wait) => {
    const found = await wait();
    await tick();
    return found;
  },
});

export const aside = document.createElement("p"); // looked at now and then, not at every change of the page

/** Until the rail has answered, and no part of the page waits; long work may go on. */
export async function settled(page: HTMLElement) {
  await tick();
  await waitFor(
    () => {
      if (!page.querySelector("[aria-busy=false] [data-cell]")) throw new Error("the rail has not answered");
      const here = page.querySelector("header [aria-current]")?.getAttribute("href")?.split(/[/?]/)[1];
      if (here !== window.location.pathname.split("/")[1]) throw new Error(`still at ${here}`);
      const waits = page.querySelector(WAITS);
      if (waits) throw new Error(`still waits: ${waits.outerHTML.slice(0, 200)}`);
      const said = /Working it out …|Opening the station …|Trying all skies …/.exec(page.textContent ?? "");
      if (said) throw new Error(said[0]);
    },
    { timeout: 90_000, interval: 40, container: aside },
  );
}

/** The address changes as by a link elsewhere, or the browser's own buttons. */
export function goes(to: string) {
  window.history.pushState(null, "", to);
  window.dispatchEvent(new PopStateEvent("popstate"));
}

export const left = () => {
  for (const leave of leaving.splice(0)) leave();
  localStorage.clear();
  sessionStorage.clear();
};
