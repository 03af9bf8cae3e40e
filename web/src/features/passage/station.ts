import { lazy } from "react";
import type { Station } from "../../kit/station";

export const passage: Station = {
  key: "passage",
  label: "Passage",
  tells: "What this passage tells you",
  Page: lazy(() => import("./PassageStation")),
};
