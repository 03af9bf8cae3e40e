import { useState } from "react";
import type { DayPicture } from "../../api/client";
import { BankBought } from "../../boat/BankBought";
import { bankSummary, withBank, withoutBank } from "../../boat/banks";
import { Loads } from "../../boat/Loads";
import { SiteFields } from "../../boat/SiteFields";
import { SourceFields, sourceSummary } from "../../boat/SourceFields";
import { STATES } from "../../boat/words";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useUnits } from "../../kit/preferences";
import { Fold } from "../../kit/ui/Fold";
import { ChoiceField, Group, NumberField, TextField } from "../../kit/ui/fields";
import { counted, shown } from "../../kit/units";
import { Spells, Stays } from "./Hours";
import { Panels } from "./Panels";

const SKIES = [
  ["clear", "clear"],
  ["hazy", "hazy"],
  ["broken", "broken"],
  ["overcast", "overcast"],
  ["rain", "rain, fog"],
] as const;
type FoldName = "sources" | "place" | "bank" | "panels" | "house";

/** The day, and what meets it. */
export function DayBench({ picture }: { picture: DayPicture | undefined }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const [open, setOpen] = useState<FoldName | null>(null);
  const fold = (name: FoldName) => ({
    open: open === name,
    onOpen: (on: boolean) => setOpen(on ? name : null),
  });
  const bank = design.banks?.[0];
  const loads = design.loads ?? [];
  const power = (value: number) => shown({ quantity: "power_w", value, signed: false }, units);

  return (
    <div className="bench border-r border-hairline px-5 py-3">
      <Group title="Sky">
        <TextField pointer="/plan/date" label="Date" type="date" width={140} />
        <fieldset className="m-0 mb-1 flex flex-wrap gap-1.5 border-0 p-0">
          <legend className="sr-only">Sky</legend>
          {SKIES.map(([sky, label]) => (
            <button
              key={sky}
              type="button"
              className="btn min-h-[28px]! px-2.5!"
              data-main={design.plan.sky === sky || undefined}
              aria-pressed={design.plan.sky === sky}
              onClick={() => apply((current) => withValue(current, "/plan/sky", sky), "sky")}
            >
              {label}
            </button>
          ))}
        </fieldset>
      </Group>
      <Group title="The boat">
        <ChoiceField pointer="/plan/state" label="She is" options={STATES} width={130} />
        <Stays />
        <NumberField pointer="/plan/speed_mps" label="Speed" kind="speed_mps" step={0.1} />
        {bank && (
          <NumberField
            pointer="/plan/start_charge_frac"
            label="Bank at the start"
            kind="fraction"
            step={5}
            hint="At sunrise, when the drawn day begins"
          />
        )}
        <Spells picture={picture} />
      </Group>
      <Fold title="Place" summary={design.site.name ?? ""} {...fold("place")}>
        <SiteFields zone={picture?.zone} air={picture?.air_temperature_c} />
      </Fold>
      <Fold title="Other sources" summary={sourceSummary(design)} {...fold("sources")}>
        <SourceFields />
      </Fold>
      <Fold title="Bank" summary={bank ? bankSummary(bank) : "none"} {...fold("bank")}>
        {bank ? (
          <>
            <BankBought index={0} />
            <NumberField
              pointer="/banks/0/reserve_frac"
              label="Reserve"
              kind="fraction"
              usual={picture?.reserve_frac ?? null}
              step={5}
              hint="State of charge kept back; empty means usual for the chemistry"
            />
            <button
              type="button"
              className="link"
              onClick={() => apply((current) => withoutBank(current, bank.id), "bank")}
            >
              no bank
            </button>
          </>
        ) : (
          <>
            <p className="mt-0 mb-1 text-muted">Without a bank the panels drive the motor directly.</p>
            <button type="button" className="link" onClick={() => apply(withBank, "bank")}>
              add a bank
            </button>
          </>
        )}
      </Fold>
      <Fold
        title="Panels"
        summary={design.panels?.length ? (picture ? `${power(picture.nameplate_w)} nameplate` : "") : "none"}
        {...fold("panels")}
      >
        <Panels />
      </Fold>
      <Fold title="House" summary={loads.length ? counted(loads.length, "load") : "none"} {...fold("house")}>
        <Loads />
      </Fold>
    </div>
  );
}
