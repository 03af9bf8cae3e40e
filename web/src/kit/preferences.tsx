import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import { type Kind, shown, type Units, USUAL_UNITS } from "./units";

export type Theme = "daylight" | "dusk" | "night";
interface Preferences {
  units: Units;
  theme: Theme;
  shortcuts: boolean;
}
interface PreferencesHandle extends Preferences {
  change: (part: Partial<Preferences>) => void;
}

const KEY = "parhelion.preferences";
const USUAL: Preferences = { units: USUAL_UNITS, theme: "daylight", shortcuts: true };
const Context = createContext<PreferencesHandle>({ ...USUAL, change: () => undefined });

function remembered(): Preferences {
  try {
    return { ...USUAL, ...JSON.parse(localStorage.getItem(KEY) ?? "{}") };
  } catch {
    return USUAL;
  }
}

export function PreferencesProvider({ children }: { children: ReactNode }) {
  const [held, setHeld] = useState(remembered);
  useEffect(() => {
    localStorage.setItem(KEY, JSON.stringify(held));
    document.documentElement.dataset.theme = held.theme;
  }, [held]);
  const handle = useMemo(
    () => ({ ...held, change: (part: Partial<Preferences>) => setHeld((old) => ({ ...old, ...part })) }),
    [held],
  );
  return <Context.Provider value={handle}>{children}</Context.Provider>;
}

export const usePreferences = () => useContext(Context);
/** The sign of the boat's money. */
export const Currency = createContext("coins");

export function useUnits(): Units {
  const { units } = useContext(Context);
  const currency = useContext(Currency);
  return useMemo(() => ({ ...units, currency }), [units, currency]);
}

/** Says an SI value in the person's units. */
export function useSay() {
  const units = useUnits();
  return (quantity: Kind, value: number, signed = false) => shown({ quantity, value, signed }, units);
}
