import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { FirstBoat } from "./app/FirstBoat";
import { Workspace } from "./app/Workspace";
import { PreferencesProvider } from "./kit/preferences";
import { ToastProvider } from "./kit/Toast";
import "./index.css";

const queries = new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: false } } });

function Root({ page }: { page: "first" | "work" }) {
  return <ToastProvider>{page === "first" ? <FirstBoat /> : <Workspace />}</ToastProvider>;
}

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <PreferencesProvider>
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <Routes>
              <Route path="/" element={<Root page="first" />} />
              <Route path="/:station/:variantId" element={<Root page="work" />} />
              <Route path="*" element={<Root page="first" />} />
            </Routes>
          </BrowserRouter>
        </QueryClientProvider>
      </PreferencesProvider>
    </StrictMode>,
  );
