import { lazy } from "react";
import type { Station } from "../../kit/station";

export const log: Station = {
  key: "log",
  label: "Log",
  tells: "What the readings tell you",
  Page: lazy(() => import("./LogStation")),
};
