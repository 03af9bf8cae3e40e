/** Adding and removing banks, converters and loads. */
import type { Bank, BoatDesign, LoadPreset } from "../api/client";
import { fresh } from "./panels";

export const CHEMISTRIES = [
  ["lfp", "LFP"],
  ["nmc", "NMC"],
  ["agm", "AGM"],
  ["flooded", "Flooded lead"],
  ["gel", "Gel"],
] as const;

/** A bank in a few words, as it was bought. */
export function bankSummary(bank: Bank): string {
  const label = CHEMISTRIES.find(([key]) => key === bank.chemistry)?.[1];
  const joined = (bank.series ?? 1) * (bank.parallel ?? 1) > 1 ? ` ${bank.series}s${bank.parallel}p` : "";
  return `${label}${joined} of ${bank.unit_v} V ${bank.unit_ah} Ah`;
}

const unit = (what: string, name: string, unit_v: number, series: number) =>
  ({ id: fresh(what), name, chemistry: "lfp", unit_v, unit_ah: 100, series, parallel: 1 }) as Bank;

export function withBank(design: BoatDesign): BoatDesign {
  return { ...design, banks: [unit("bank", "Bank", 12.8, 2), ...(design.banks ?? [])] };
}

/** A second bank for the house, with a converter that keeps it supplied. */
export function withHouseBank(design: BoatDesign): BoatDesign {
  const main = design.banks?.[0];
  if (!main) return withBank(design);
  const house = unit("house", "House bank", 12.8, 1);
  return withLink({ ...design, banks: [main, house] }, main.id, house.id);
}

/** Without a bank, and without what only it had: its converters, and the choice of it by loads and controllers. */
export function withoutBank(design: BoatDesign, id: string): BoatDesign {
  const free = <T extends { bank_id?: string | null }>(items: T[] | undefined) =>
    (items ?? []).map((item) => (item.bank_id === id ? { ...item, bank_id: null } : item));
  return {
    ...design,
    banks: (design.banks ?? []).filter((bank) => bank.id !== id),
    links: (design.links ?? []).filter((link) => link.from_bank_id !== id && link.to_bank_id !== id),
    loads: free(design.loads),
    controllers: free(design.controllers),
    sources: free(design.sources),
  };
}

export function withLink(design: BoatDesign, from: string, to: string): BoatDesign {
  const link = {
    id: fresh("link"),
    from_bank_id: from,
    to_bank_id: to,
    limit_w: 360,
    efficiency: 0.93,
    carries: "needs",
  } as const;
  return { ...design, links: [...(design.links ?? []), link] };
}

export function withoutLink(design: BoatDesign, id: string): BoatDesign {
  return { ...design, links: (design.links ?? []).filter((link) => link.id !== id) };
}

export function withLoad(design: BoatDesign, preset?: LoadPreset): BoatDesign {
  const load = {
    id: fresh("load"),
    name: preset?.name ?? "Load",
    power_w: preset?.power_w ?? 20,
    hours_per_day: preset?.hours_per_day ?? 4,
    essential: preset?.essential ?? false,
    inverter_efficiency: preset?.inverter_efficiency ?? null,
  };
  return { ...design, loads: [...(design.loads ?? []), load] };
}

export function withoutLoad(design: BoatDesign, id: string): BoatDesign {
  return { ...design, loads: (design.loads ?? []).filter((load) => load.id !== id) };
}
