import type { Sentence } from "../../api/client";
import { useUnits } from "../preferences";
import { told } from "../units";

/** A sentence of the core, in the person's units. */
export function Told({ sentence }: { sentence: Sentence }) {
  return <>{told(sentence, useUnits())}</>;
}
