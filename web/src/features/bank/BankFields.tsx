import type { Tank } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { CheckField, NumberField, TextField } from "../../kit/ui/fields";
import { type Kind, shown } from "../../kit/units";

/** The low and high of what is usual, for a hint. */
function useUsual(tank: Tank | undefined) {
  const units = useUnits();
  return (entry: string, kind: Kind, words: string) => {
    const span = tank?.usual[entry];
    if (!span) return words;
    const say = (value: number) => shown({ quantity: kind, value, signed: false }, units);
    return `${words}; usual is ${say(span.low)} to ${say(span.high)}`;
  };
}

/** How far down it may go. */
export function BankDepth({ index, tank }: { index: number; tank: Tank | undefined }) {
  const usual = useUsual(tank);
  const at = `/banks/${index}`;
  return (
    <>
      <NumberField
        pointer={`${at}/usable_depth_frac`}
        label="Usable depth"
        kind="fraction"
        usual={tank?.usable_depth_frac ?? null}
        step={5}
        hint={usual("usable_depth_frac", "fraction", "How much of it may be drawn; empty means usual")}
      />
      <NumberField
        pointer={`${at}/reserve_frac`}
        label="Reserve"
        kind="fraction"
        usual={tank?.reserve_frac ?? null}
        step={5}
        hint="State of charge kept back; empty means usual for the chemistry"
      />
    </>
  );
}

/** Volts, limits and losses: the maker's own where they are known. */
export function BankLimits({ index, tank }: { index: number; tank: Tank | undefined }) {
  const usual = useUsual(tank);
  const at = `/banks/${index}`;
  const field = (entry: string) => `${at}/${entry}`;
  return (
    <>
      <NumberField
        pointer={field("full_v")}
        label="Full, at rest"
        kind="voltage_v"
        usual={tank?.full_v ?? null}
        step={0.1}
        hint="The maker's volts, for the whole bank"
      />
      <NumberField
        pointer={field("empty_v")}
        label="Empty, at rest"
        kind="voltage_v"
        usual={tank?.empty_v ?? null}
        step={0.1}
      />
      <NumberField
        pointer={field("cut_out_v")}
        label="Cuts out at"
        kind="voltage_v"
        usual={tank?.cut_out_v ?? null}
        step={0.1}
      />
      <NumberField
        pointer={field("charge_limit_a")}
        label="Charge limit"
        kind="current_a"
        usual={tank?.charge_limit_a ?? null}
        step={5}
        hint={usual("charge_limit_a", "current_a", "Above it the panels are refused")}
      />
      <NumberField
        pointer={field("discharge_limit_a")}
        label="Discharge limit"
        kind="current_a"
        usual={tank?.discharge_limit_a ?? null}
        step={5}
        hint={usual("discharge_limit_a", "current_a", "Lasting; given, it holds the motor back")}
      />
      <NumberField
        pointer={field("coulomb_efficiency")}
        label="Charge efficiency"
        kind="fraction"
        usual={tank?.coulomb_efficiency ?? null}
        step={1}
        hint={usual("coulomb_efficiency", "fraction", "Amp-hours out over amp-hours in")}
      />
      <NumberField
        pointer={field("resistance_ohm")}
        label="Resistance"
        kind="ratio"
        unit="Ω"
        usual={tank?.resistance_ohm ?? null}
        step={0.001}
      />
      <CheckField pointer={field("management")} label="Management system" />
      <NumberField
        pointer={field("fuse_distance_m")}
        label="Main fuse, from it"
        kind="length_m"
        usual={null}
        step={0.1}
      />
      <NumberField
        pointer={field("short_circuit_a")}
        label="Short circuit"
        kind="current_a"
        usual={null}
        step={100}
        hint="As the maker gives it; empty means volts over resistance"
      />
    </>
  );
}

/** Age, warmth, mass and place. */
export function BankPlace({ index, tank }: { index: number; tank: Tank | undefined }) {
  const { design, apply } = useDesign();
  const at = `/banks/${index}`;
  const field = (entry: string) => `${at}/${entry}`;
  const placed = design.banks?.[index]?.at;
  return (
    <>
      <TextField pointer={field("name")} label="Called" width={150} />
      <NumberField
        pointer={field("unit_mass_kg")}
        label="Mass of one unit"
        kind="mass_kg"
        usual={tank?.unit_mass_kg ?? null}
        step={1}
      />
      <NumberField
        pointer={field("temperature_c")}
        label="How warm it is"
        kind="temperature_c"
        usual={null}
        step={1}
        hint="Empty means as the air"
      />
      <NumberField pointer={field("age_years")} label="Age" kind="years" unit="y" step={1} />
      <NumberField pointer={field("cycles_used")} label="Cycles used" kind="count" step={50} />
      <NumberField
        pointer={field("health_frac")}
        label="Found by a test"
        kind="fraction"
        usual={tank?.health_frac ?? null}
        step={1}
        hint="Capacity left over capacity when new"
      />
      <NumberField
        pointer={field("smallest_unit_ah")}
        label="Smallest, if not alike"
        kind="capacity_ah"
        usual={null}
        step={10}
        hint="Amp-hours of the smallest unit"
      />
      <NumberField
        pointer={field("claimed_ah")}
        label="Sold as"
        kind="capacity_ah"
        usual={null}
        step={10}
        hint="What the seller, or your own sum, says of the whole bank"
      />
      <NumberField
        pointer={field("claimed_wh")}
        label="Sold as"
        name="Sold as, watt-hours"
        kind="energy_wh"
        usual={null}
        step={100}
      />
      {placed ? (
        <NumberField
          pointer={field("at/y_m")}
          label="Forward of amidships"
          kind="length_m"
          step={0.1}
          hint="Aft is negative"
        />
      ) : (
        <button
          type="button"
          className="link"
          onClick={() =>
            apply(
              (current) => ({
                ...current,
                banks: (current.banks ?? []).map((bank, i) =>
                  i === index ? { ...bank, at: { x_m: 0, y_m: 0, z_m: 0 } } : bank,
                ),
              }),
              "bank-place",
            )
          }
        >
          say where it sits
        </button>
      )}
    </>
  );
}
