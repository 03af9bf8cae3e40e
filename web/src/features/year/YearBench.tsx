import { SiteFields } from "../../boat/SiteFields";
import { SourceFields, sourceSummary } from "../../boat/SourceFields";
import { useDesign } from "../../kit/document";
import { Field } from "../../kit/ui/Field";
import { Fold } from "../../kit/ui/Fold";
import { Group } from "../../kit/ui/fields";
import { Bench } from "../../kit/ui/Page";
import { useFolds } from "../../kit/ui/useFolds";
import { ClimateFields, climateSummary } from "./ClimateFields";

/** What the year rests on: the plan's speed, and the climate of the place. */
export function YearBench() {
  const { design, entries } = useDesign();
  const fold = useFolds<"climate" | "place" | "sources">("climate");
  return (
    <Bench of="What the year rests on">
      <Group title="The plan">
        <Field at="/plan/date" width={140} />
        <Field at="/plan/speed_mps" />
        {(design.banks ?? []).length > 0 && <Field at="/plan/start_charge_frac" />}
      </Group>
      <Fold title="Climate" summary={climateSummary(design, entries)} {...fold("climate")}>
        <ClimateFields />
      </Fold>
      <Fold title="Place" summary={design.site.name ?? ""} {...fold("place")}>
        <SiteFields />
      </Fold>
      <Fold title="Other sources" summary={sourceSummary(design)} {...fold("sources")}>
        <SourceFields />
      </Fold>
    </Bench>
  );
}
