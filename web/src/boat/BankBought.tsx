import { Fields } from "../kit/ui/Field";

/** A bank as it was bought: what one unit is, and how they are joined. */
export const BankBought = ({ index }: { index: number }) => (
  <Fields at={`/banks/${index}`} of="chemistry unit_v unit_ah series parallel" />
);
