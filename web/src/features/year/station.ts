import { lazy } from "react";
import type { Station } from "../../kit/station";

export const year: Station = {
  key: "year",
  label: "Year",
  tells: "What this year tells you",
  Page: lazy(() => import("./YearStation")),
};
