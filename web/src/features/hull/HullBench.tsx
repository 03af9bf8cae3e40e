import type { HullPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { Field, Fields } from "../../kit/ui/Field";
import { Fold } from "../../kit/ui/Fold";
import { Group } from "../../kit/ui/fields";
import { Bench } from "../../kit/ui/Page";
import { useFolds } from "../../kit/ui/useFolds";

import { DriveFields, driveSummary } from "./DriveFields";
import { ExactForm } from "./ExactForm";
import { LoadFields } from "./LoadFields";
import { Pushes, pushSummary } from "./Pushes";
import { Runs } from "./Runs";
import { Seaway, seawaySummary } from "./Seaway";

type FoldName = "form" | "load" | "sea" | "push" | `drive-${number}`;

/** What moves and what moves it. */
export function HullBench({ picture }: { picture: HullPicture | undefined }) {
  const { design, entries } = useDesign();
  const units = useUnits();
  const fold = useFolds<FoldName>();
  const say = useSay();
  return (
    <Bench of="The boat and how she is driven">
      <Group title="Boat">
        <Field at="/name" width={166} />
        <Field at="/use" width={166} />
      </Group>
      <Group title="Hull">
        <Field at="/hull/type" width={166} />
        <Fields at="/hull" of="waterline_length_m beam_m displacement_kg" />
      </Group>
      <Fold
        title="Load"
        summary={picture?.weights.length ? picture.weights.map((part) => part.name).join(", ") : "as weighed"}
        {...fold("load")}
      >
        <LoadFields weights={picture?.weights ?? []} />
      </Fold>
      <Fold
        title="Exact form"
        summary={picture ? `draught ${say("length_m", picture.draught_m)}` : ""}
        {...fold("form")}
      >
        <ExactForm picture={picture} />
      </Fold>
      {design.drives.map((drive, index) => (
        <Fold
          key={drive.id}
          title={drive.name || "Drive"}
          summary={driveSummary(drive, units)}
          {...fold(`drive-${index}`)}
        >
          <DriveFields index={index} />
        </Fold>
      ))}
      <Fold title="Wind, waves, tow" summary={seawaySummary(design, units)} {...fold("sea")}>
        <Seaway />
      </Fold>
      <Fold title="Other push" summary={pushSummary(design, entries)} {...fold("push")}>
        <Pushes />
      </Fold>
      <div className="border-t border-hairline pt-2">
        <Runs picture={picture} />
      </div>
    </Bench>
  );
}
