import { lazy } from "react";
import type { Station } from "../../kit/station";

export const day: Station = {
  key: "day",
  label: "Day",
  tells: "What this day tells you",
  Page: lazy(() => import("./DayStation")),
};
