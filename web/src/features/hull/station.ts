import { lazy } from "react";
import type { Station } from "../../kit/station";

export const hull: Station = {
  key: "hull",
  label: "Hull",
  tells: "What this hull tells you",
  Page: lazy(() => import("./HullStation")),
};
