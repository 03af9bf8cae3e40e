/** Who proves: remembered in this browser, written beside every proof. */
import { useState } from "react";

const KEY = "parhelion.signer";

export const signerNow = () => localStorage.getItem(KEY) ?? "";

export function useSigner(): [string, (name: string) => void] {
  const [name, setName] = useState(signerNow);
  const put = (next: string) => {
    localStorage.setItem(KEY, next);
    setName(next);
  };
  return [name, put];
}
