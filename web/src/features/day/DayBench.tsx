import type { DayPicture } from "../../api/client";
import { BankBought } from "../../boat/BankBought";
import { bankSummary } from "../../boat/banks";
import { Loads } from "../../boat/Loads";
import { SiteFields } from "../../boat/SiteFields";
import { SourceFields, sourceSummary } from "../../boat/SourceFields";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useUnits } from "../../kit/preferences";
import { AddPart, Field, RemovePart } from "../../kit/ui/Field";
import { Fold } from "../../kit/ui/Fold";
import { Group } from "../../kit/ui/fields";
import { Bench } from "../../kit/ui/Page";
import { useFolds } from "../../kit/ui/useFolds";
import { counted, shown } from "../../kit/units";
import { Spells, Stays } from "./Hours";
import { Panels } from "./Panels";

type FoldName = "sources" | "place" | "bank" | "panels" | "house";

/** The day, and what meets it. */
export function DayBench({ picture }: { picture: DayPicture | undefined }) {
  const { design, apply, entries } = useDesign();
  const units = useUnits();
  const fold = useFolds<FoldName>();
  const bank = design.banks?.[0];
  const loads = design.loads ?? [];
  const power = (value: number) => shown({ quantity: "power_w", value, signed: false }, units);

  return (
    <Bench of="The day as it is set">
      <Group title="Sky">
        <Field at="/plan/date" width={140} />
        <fieldset className="m-0 mb-1 flex flex-wrap gap-1.5 border-0 p-0">
          <legend className="sr-only">Sky</legend>
          {entries.options("/plan/sky").map(([sky, label]) => (
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
        {design.plan.sky !== "clear" && <Field at="/plan/sky_shade" width={100} />}
      </Group>
      <Group title="The boat">
        <Field at="/plan/state" width={130} />
        <Stays />
        <Field at="/plan/speed_mps" />
        {bank && <Field at="/plan/start_charge_frac" />}
        <Spells picture={picture} />
      </Group>
      <Fold title="Place" summary={design.site.name ?? ""} {...fold("place")}>
        <SiteFields zone={picture?.zone} />
      </Fold>
      <Fold title="Other sources" summary={sourceSummary(design)} {...fold("sources")}>
        <SourceFields />
      </Fold>
      <Fold title="Bank" summary={bank ? bankSummary(bank, entries) : "none"} {...fold("bank")}>
        {bank ? (
          <>
            <BankBought index={0} />
            <Field at="/banks/0/reserve_frac" />
            <RemovePart from="/banks" id={bank.id} words="no bank" />
          </>
        ) : (
          <>
            <p className="mt-0 mb-1 text-muted">Without a bank the panels drive the motor directly.</p>
            <AddPart to="/banks" like={{ series: 2 }} words="add a bank" />
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
    </Bench>
  );
}
