/** The sheets over the page: each comes with its script once it is opened. */
import { lazy, type ReactNode, Suspense } from "react";

export const HistoryDialog = lazy(async () => ({ default: (await import("./HistoryDialog")).HistoryDialog }));
export const NewBoatDialog = lazy(async () => ({ default: (await import("./NewBoatDialog")).NewBoatDialog }));
export const Shortcuts = lazy(async () => ({ default: (await import("./Shortcuts")).Shortcuts }));
export const GoneDialog = lazy(async () => ({ default: (await import("./GoneDialog")).GoneDialog }));
export const ConflictDialog = lazy(async () => ({
  default: (await import("./ConflictDialog")).ConflictDialog,
}));

export function Sheet({ open, children }: { open: boolean; children: ReactNode }) {
  return open ? <Suspense fallback={null}>{children}</Suspense> : null;
}
