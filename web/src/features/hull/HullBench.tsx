import { useQuery } from "@tanstack/react-query";
import { client, dataOf } from "../../api/client";
import { useDesign } from "../../app/design";
import { ChoiceField, Group, NumberField, TextField } from "../../shared/ui/fields";
import { Runs } from "./Runs";

export const USES = [
  ["cruiser", "cruises on the sun"],
  ["auxiliary", "sails, motor helps"],
  ["home_charged", "charged at home"],
] as const;

export function useHullTypes() {
  return useQuery({
    queryKey: ["hull-types"],
    queryFn: () => dataOf(client.GET("/api/hull-types")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What moves and what moves it. */
export function HullBench() {
  const { design } = useDesign();
  const types = useHullTypes().data ?? [];
  const type = types.find((item) => item.type === design.hull.type);
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
          hint="Displacement: the boat with crew, gear, bank and panels"
        />
      </Group>
      <Group title="Drive">
        <NumberField
          pointer="/drives/0/rated_power_w"
          label="Most it takes"
          kind="power_w"
          hint="Battery watts at full throttle"
        />
        <NumberField
          pointer="/drives/0/overall_efficiency"
          label="Battery to thrust"
          kind="fraction"
          usual={type?.efficiency ?? null}
          step={1}
          hint="Share of battery watts that becomes thrust times speed; empty means usual for this type"
        />
        <NumberField
          pointer="/drives/0/idle_power_w"
          label="Draw when idling"
          kind="power_w"
          step={1}
          hint="On, but not turning"
        />
      </Group>
      <Runs />
    </div>
  );
}
