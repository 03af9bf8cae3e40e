import { useDesign } from "../../kit/document";
import { Begin, Field, Fields, RemovePart } from "../../kit/ui/Field";

/** How far down it may go. */
export const BankDepth = ({ index }: { index: number }) => (
  <Fields at={`/banks/${index}`} of="usable_depth_frac reserve_frac" />
);

/** Volts, limits and losses: the maker's own where they are known. */
export const BankLimits = ({ index }: { index: number }) => (
  <Fields
    at={`/banks/${index}`}
    of="full_v empty_v cut_out_v charge_limit_a discharge_limit_a coulomb_efficiency resistance_ohm management fuse_distance_m short_circuit_a"
  />
);

/** Age, warmth, mass and place. */
export function BankPlace({ index }: { index: number }) {
  const bank = useDesign().design.banks?.[index];
  const at = `/banks/${index}`;
  return (
    <>
      <Fields
        at={at}
        of="name unit_mass_kg unit_price berth temperature_c age_years cycles_used health_frac smallest_unit_ah claimed_ah claimed_wh"
      />
      {bank?.at && <Field at={`${at}/at/y_m`} label="Forward of amidships" />}
      <Begin at={`${at}/at`} words="say where it sits" />
      {index === 0 && <RemovePart from="/banks" id={bank?.id ?? ""} words="remove this bank" />}
    </>
  );
}
