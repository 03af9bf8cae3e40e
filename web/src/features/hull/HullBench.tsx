import type { HullPicture } from "../../api/client";
import { useHullTypes } from "../../boat/hullTypes";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { Fold } from "../../kit/ui/Fold";
import { ChoiceField, Group, NumberField, TextField } from "../../kit/ui/fields";
import { useFolds } from "../../kit/ui/useFolds";
import { type Kind, shown } from "../../kit/units";
import { DriveFields, driveSummary } from "./DriveFields";
import { ExactForm } from "./ExactForm";
import { LoadFields } from "./LoadFields";
import { Pushes, pushSummary } from "./Pushes";
import { Runs } from "./Runs";
import { Seaway, seawaySummary } from "./Seaway";

export const USES = [
  ["cruiser", "cruises on the sun"],
  ["auxiliary", "sails, motor helps"],
  ["home_charged", "charged at home"],
] as const;

type FoldName = "form" | "load" | "sea" | "push" | `drive-${number}`;

/** What moves and what moves it. */
export function HullBench({ picture }: { picture: HullPicture | undefined }) {
  const { design } = useDesign();
  const units = useUnits();
  const types = useHullTypes().data ?? [];
  const type = types.find((item) => item.type === design.hull.type);
  const fold = useFolds<FoldName>();
  const say = (quantity: Kind, value: number) => shown({ quantity, value, signed: false }, units);
  return (
    <div className="bench border-r border-hairline px-5 py-3">
      <Group title="Boat">
        <TextField pointer="/name" label="Name" width={166} />
        <ChoiceField pointer="/use" label="Use" options={USES} width={166} />
      </Group>
      <Group title="Hull">
        <ChoiceField
          pointer="/hull/type"
          label="Type"
          options={types.map((item) => [item.type, item.label] as const)}
          width={166}
        />
        <NumberField pointer="/hull/waterline_length_m" label="Waterline length" kind="length_m" step={0.1} />
        <NumberField
          pointer="/hull/beam_m"
          label={type && type.hulls > 1 ? "Beam of one hull" : "Beam at the waterline"}
          kind="length_m"
          step={0.05}
        />
        <NumberField
          pointer="/hull/displacement_kg"
          label="All-up weight"
          kind="mass_kg"
          usual={design.loading ? (picture?.displacement_kg ?? null) : undefined}
          hint="Displacement as weighed, all aboard; empty means boat, crew, gear, bank and panels added up"
        />
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
          <DriveFields index={index} efficiency={type?.efficiency ?? null} picture={picture} />
        </Fold>
      ))}
      <Fold title="Wind, waves, tow" summary={seawaySummary(design, units)} {...fold("sea")}>
        <Seaway />
      </Fold>
      <Fold title="Other push" summary={pushSummary(design)} {...fold("push")}>
        <Pushes />
      </Fold>
      <div className="border-t border-hairline pt-2">
        <Runs picture={picture} />
      </div>
    </div>
  );
}
