/** The whole application in a page without a window, before a server that answers: as a person opens it. */
import "./furnish";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, configure, render, waitFor } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { Workspace } from "../../src/app/Workspace";
import { PreferencesProvider } from "../../src/kit/preferences";
import { ToastProvider } from "../../src/kit/Toast";

/** Opens a boat at a station, and waits until nothing on the page is an older answer or still to come. */
export async function opened(station: string, variant: string, search = "") {
  const queries = new QueryClient({
    defaultOptions: { queries: { refetchOnWindowFocus: false, retry: false } },
  });
  const router = createMemoryRouter(
    [
      {
        path: "/:station/:variantId",
        element: (
          <ToastProvider>
            <Workspace />
          </ToastProvider>
        ),
      },
    ],
    { initialEntries: [`/${station}/${variant}${search}`] },
  );
  const page = render(
    <PreferencesProvider>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </PreferencesProvider>,
  );
  await settled(page.container);
  return { ...page, router };
}

const WAITS = "[role=status][aria-label^=Computing], .opacity-75, .opacity-70, .opacity-60, [aria-busy=true]";

configure({ asyncUtilTimeout: 60_000 }); // a machine that runs every test at once is slow
const aside = document.createElement("p"); // looked at now and then, not at every change of the page

/** Until the rail has answered, and no part of the page waits; long work may go on. */
export async function settled(page: HTMLElement) {
  await waitFor(
    () => {
      if (!page.querySelector("[aria-busy=false] [data-cell]")) throw new Error("the rail has not answered");
      const waits = page.querySelector(WAITS);
      if (waits) throw new Error(`still waits: ${waits.outerHTML.slice(0, 200)}`);
      const said = /Working it out …|Opening the station …|Trying all skies …/.exec(page.textContent ?? "");
      if (said) throw new Error(said[0]);
    },
    { timeout: 90_000, interval: 40, container: aside },
  );
}

export const left = () => {
  cleanup();
  localStorage.clear();
  sessionStorage.clear();
};
