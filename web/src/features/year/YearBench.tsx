import { SiteFields } from "../../boat/SiteFields";
import { SourceFields, sourceSummary } from "../../boat/SourceFields";
import { useDesign } from "../../kit/document";
import { Fold } from "../../kit/ui/Fold";
import { Group, NumberField, TextField } from "../../kit/ui/fields";
import { useFolds } from "../../kit/ui/useFolds";
import { ClimateFields, climateSummary } from "./ClimateFields";

/** What the year rests on: the plan's speed, and the climate of the place. */
export function YearBench() {
  const { design } = useDesign();
  const fold = useFolds<"climate" | "place" | "sources">("climate");
  return (
    <section aria-label="What the year rests on" className="bench border-r border-hairline px-5 py-3">
      <Group title="The plan">
        <TextField pointer="/plan/date" label="Date" type="date" width={140} />
        <NumberField pointer="/plan/speed_mps" label="Speed" kind="speed_mps" step={0.1} />
        {(design.banks ?? []).length > 0 && (
          <NumberField
            pointer="/plan/start_charge_frac"
            label="Bank at the start"
            kind="fraction"
            step={5}
            hint="On the morning of the first day"
          />
        )}
      </Group>
      <Fold title="Climate" summary={climateSummary(design)} {...fold("climate")}>
        <ClimateFields />
      </Fold>
      <Fold title="Place" summary={design.site.name ?? ""} {...fold("place")}>
        <SiteFields />
      </Fold>
      <Fold title="Other sources" summary={sourceSummary(design)} {...fold("sources")}>
        <SourceFields />
      </Fold>
    </section>
  );
}
