import { lazy } from "react";
import type { Station } from "../../kit/station";

export const bank: Station = {
  key: "bank",
  label: "Bank",
  tells: "What this bank tells you",
  Page: lazy(() => import("./BankStation")),
};
