import { lazy } from "react";
import type { Station } from "../../kit/station";

export const array: Station = {
  key: "array",
  label: "Array",
  tells: "What this array tells you",
  Page: lazy(() => import("./ArrayStation")),
};
