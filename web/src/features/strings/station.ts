import { lazy } from "react";
import type { Station } from "../../kit/station";

export const strings: Station = {
  key: "strings",
  label: "Strings",
  tells: "What this wiring tells you",
  Page: lazy(() => import("./StringsStation")),
};
