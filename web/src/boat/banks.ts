/** Banks in a few words, and a second one for the house. */
import type { Bank, BoatDesign } from "../api/client";
import type { Entries } from "../kit/entries";

/** A bank as it was bought. */
export function bankSummary(bank: Bank, entries: Entries): string {
  const label = entries.words("/banks/0/chemistry")[bank.chemistry ?? "lfp"];
  const joined = (bank.series ?? 1) * (bank.parallel ?? 1) > 1 ? ` ${bank.series}s${bank.parallel}p` : "";
  return `${label}${joined} of ${bank.unit_v} V ${bank.unit_ah} Ah`;
}

/** A second bank for the house, with a converter that keeps it supplied. */
export function withHouseBank(design: BoatDesign, entries: Entries): BoatDesign {
  const [main] = design.banks ?? [];
  const added = entries.withNew(design, "/banks", { name: "House bank" });
  const house = added.banks?.at(-1);
  if (!main || !house) return added;
  return entries.withNew(added, "/links", { from_bank_id: main.id, to_bank_id: house.id });
}
