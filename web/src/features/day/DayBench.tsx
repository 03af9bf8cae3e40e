import { useState } from "react";
import type { DayPicture } from "../../api/client";
import { useDesign } from "../../app/design";
import { useUnits } from "../../app/preferences";
import { withValue } from "../../shared/pointer";
import { Fold } from "../../shared/ui/Fold";
import { ChoiceField, Group, NumberField, TextField } from "../../shared/ui/fields";
import { shown } from "../../shared/units";
import { STATES } from "../array/parts";
import { BankBought } from "../bank/BankFields";
import { Loads } from "../bank/Loads";
import { bankSummary, withBank, withoutBank } from "../bank/parts";
import { ClimateFields, climateSummary } from "./ClimateFields";
import { Panels, PlaceFields } from "./DayFolds";

const SKIES = [
  ["clear", "clear"],
  ["hazy", "hazy"],
  ["broken", "broken"],
  ["overcast", "overcast"],
  ["rain", "rain, fog"],
] as const;
type FoldName = "climate" | "place" | "bank" | "panels" | "house";

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
        <PlaceFields zone={picture?.zone} air={picture?.air_temperature_c} />
      </Fold>
      <Fold title="Climate" summary={climateSummary(design)} {...fold("climate")}>
        <ClimateFields />
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
      <Fold title="House" summary={loads.length ? `${loads.length} loads` : "none"} {...fold("house")}>
        <Loads />
      </Fold>
    </div>
  );
}

function Spells({ picture }: { picture: DayPicture | undefined }) {
  const { design, apply } = useDesign();
  const own = design.plan.spells;
  const spells = own ?? picture?.spells ?? [];
  const set = (next: unknown) => apply((current) => withValue(current, "/plan/spells", next), "spells");
  return (
    <div className="mt-2">
      <h3 className="m-0 mb-1 text-[14px] font-normal">Motoring hours</h3>
      {!own && (
        <p className="m-0 mb-1 text-[13px] text-muted">
          {spells.length
            ? `The useful sun, ${spells.map((item) => `${item.starts_at.slice(0, 5)} to ${item.ends_at.slice(0, 5)}`).join(", ")}.`
            : "No useful sun on this day."}
        </p>
      )}
      {own?.map((spell, index) => (
        <div key={`${index}-${own.length}`} className="mb-1 flex flex-wrap items-center gap-1.5">
          <TextField
            bare
            pointer={`/plan/spells/${index}/starts_at`}
            label={`Spell ${index + 1} from`}
            type="clock"
            width={64}
          />
          <span>to</span>
          <TextField
            bare
            pointer={`/plan/spells/${index}/ends_at`}
            label={`Spell ${index + 1} to`}
            type="clock"
            width={64}
          />
          {minutesBefore(spell) && <span className="text-[13px] text-muted">next day</span>}
          <button
            type="button"
            className="cross"
            aria-label={`Remove spell ${index + 1}`}
            onClick={() => set(own.length > 1 ? own.filter((_, i) => i !== index) : null)}
          >
            ×
          </button>
        </div>
      ))}
      <div className="flex gap-4">
        {own ? (
          <button type="button" className="link" onClick={() => set(null)}>
            use the useful sun
          </button>
        ) : (
          <button
            type="button"
            className="link"
            onClick={() => set(spells.length ? spells : [{ starts_at: "10:00:00", ends_at: "16:00:00" }])}
          >
            set my own
          </button>
        )}
        {own && own.length < 8 && (
          <button
            type="button"
            className="link"
            onClick={() => set([...own, { starts_at: "20:00:00", ends_at: "21:00:00" }])}
          >
            add hours
          </button>
        )}
      </div>
    </div>
  );
}

const minutesBefore = (spell: { starts_at: string; ends_at: string }) => spell.ends_at < spell.starts_at;
