import { useState } from "react";
import type { ArrayPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { Begin, Field, Fields, RemovePart } from "../../kit/ui/Field";
import { LinkButton } from "../../kit/ui/LinkButton";
import { PanelChooser } from "./PanelChooser";
import { withCount } from "./parts";

/** One kind of panel on a place: which, how many, its datasheet and what became of it. */
export function PanelFields(props: {
  g: number;
  several: boolean;
  drawn: ArrayPicture["places"][number] | undefined;
}) {
  const { g, several, drawn } = props;
  const { design, apply } = useDesign();
  const [choosing, setChoosing] = useState(false);
  const group = design.panels?.[g];
  if (!group) return null;
  const at = `/panels/${g}`;
  return (
    <fieldset className="m-0 mb-2 border-0 p-0">
      <legend className="sr-only">{group.model || `Panel group ${g + 1}`}</legend>
      <p className="m-0 mb-1 flex items-baseline justify-between gap-2">
        <b className="truncate">{group.model || "Your own panel"}</b>
        <LinkButton className="whitespace-nowrap" onClick={() => setChoosing(true)}>
          choose a panel
        </LinkButton>
      </p>
      {choosing && <PanelChooser g={g} onClose={() => setChoosing(false)} />}
      <Fields at={at} of="nameplate_w count columns panel_width_m panel_length_m turned" />
      {drawn && Math.max(drawn.fits, drawn.fits_turned) > 0 && !several && (
        <p className="my-1 text-[13px]" data-fits>
          The place takes{" "}
          <LinkButton
            disabled={drawn.fits === 0}
            onClick={() => apply((d) => withCount(d, g, drawn.fits, false), "fit")}
          >
            {drawn.fits} lengthwise
          </LinkButton>
          ,{" "}
          <LinkButton
            disabled={drawn.fits_turned === 0}
            onClick={() => apply((d) => withCount(d, g, drawn.fits_turned, true), "fit")}
          >
            {drawn.fits_turned} athwart
          </LinkButton>
        </p>
      )}
      <details className="mt-1">
        <summary className="link cursor-pointer">its datasheet</summary>
        <Fields
          at={at}
          of="model build sold_as half_cut cells_across cells_along mass_kg price open_circuit_v short_circuit_a best_v best_a power_coefficient_per_k voltage_coefficient_per_k bifaciality_frac"
        />
      </details>
      <details className="mt-1">
        <summary className="link cursor-pointer">as it is today</summary>
        <Fields at={at} of="derate_frac covered belongs" />
        <Leaves g={g} />
        {several && <RemovePart from="/panels" id={group.id} words="remove these panels" />}
      </details>
    </fieldset>
  );
}

/** The leaves of a folding panel, each at its own tilt. */
function Leaves({ g }: { g: number }) {
  const { design, apply } = useDesign();
  const at = `/panels/${g}/leaf_tilts_deg`;
  const leaves = design.panels?.[g]?.leaf_tilts_deg ?? [];
  const set = (tilts: number[]) => apply((now) => withValue(now, at, tilts), "leaves");
  if (leaves.length === 0) return <Begin at={at} words="it folds: set its leaves apart" />;
  return (
    <>
      <p className="mt-1 mb-0.5 text-[13px] text-muted">
        Tilt of each leaf, end to end along the long side; positive faces the bow.
      </p>
      <div className="flex flex-wrap gap-1">
        {leaves.map((_, i) => (
          <Field key={i} bare at={`${at}/${i}`} label={`Tilt of leaf ${i + 1}`} width={52} />
        ))}
      </div>
      <p className="m-0 flex gap-3 text-[13px]">
        <LinkButton onClick={() => set([...leaves, 0])}>one leaf more</LinkButton>
        <LinkButton onClick={() => set(leaves.slice(0, -1))}>one less</LinkButton>
      </p>
    </>
  );
}
