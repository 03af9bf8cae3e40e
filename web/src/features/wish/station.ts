import { lazy } from "react";
import type { Station } from "../../kit/station";

export const wish: Station = {
  key: "wish",
  label: "Wish",
  tells: "What this wish tells you",
  Page: lazy(() => import("./WishStation")),
};
