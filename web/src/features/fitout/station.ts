import { lazy } from "react";
import type { Station } from "../../kit/station";

export const fitout: Station = {
  key: "fitout",
  label: "Fit-out",
  tells: "What the fit-out tells you",
  Page: lazy(() => import("./FitoutStation")),
};
