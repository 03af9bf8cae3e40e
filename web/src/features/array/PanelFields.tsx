import { useState } from "react";
import type { ArrayPicture } from "../../api/client";
import { BUILDS, SETS } from "../../boat/words";
import { useDesign } from "../../kit/document";
import { CheckField, ChoiceField, NumberField, TextField } from "../../kit/ui/fields";
import { PanelChooser } from "./PanelChooser";
import { withCount, withoutGroup } from "./parts";

const USUAL_LEAVES = [0, 0, 0, 0];

/** One kind of panel on a place: which, how many, its datasheet and what became of it. */
export function PanelFields({
  g,
  several,
  drawn,
}: {
  g: number;
  several: boolean;
  drawn: ArrayPicture["places"][number] | undefined;
}) {
  const { design, apply } = useDesign();
  const [choosing, setChoosing] = useState(false);
  const group = design.panels?.[g];
  if (!group) return null;
  const at = (entry: string) => `/panels/${g}/${entry}`;
  return (
    <fieldset className="m-0 mb-2 border-0 p-0">
      <legend className="sr-only">{group.model || `Panel group ${g + 1}`}</legend>
      <p className="m-0 mb-1 flex items-baseline justify-between gap-2">
        <b className="truncate">{group.model || "Your own panel"}</b>
        <button type="button" className="link whitespace-nowrap" onClick={() => setChoosing(true)}>
          choose a panel
        </button>
      </p>
      {choosing && <PanelChooser g={g} onClose={() => setChoosing(false)} />}
      <NumberField pointer={at("nameplate_w")} label="Nameplate, each" kind="power_w" step={5} />
      <NumberField pointer={at("count")} label="How many" kind="count" step={1} />
      <NumberField
        pointer={at("columns")}
        label="Side by side"
        kind="count"
        usual={null}
        step={1}
        hint="Athwart; empty: as many as the place takes"
      />
      <NumberField
        pointer={at("panel_width_m")}
        label="Short side"
        kind="length_m"
        usual={null}
        step={0.05}
        hint="Empty: usual for its watts"
      />
      <NumberField
        pointer={at("panel_length_m")}
        label="Long side"
        kind="length_m"
        usual={null}
        step={0.05}
        hint="Empty: usual for its watts"
      />
      <CheckField pointer={at("turned")} label="Long side athwart" />
      {drawn && Math.max(drawn.fits, drawn.fits_turned) > 0 && !several && (
        <p className="my-1 text-[13px]" data-fits>
          The place takes{" "}
          <button
            type="button"
            className="link"
            disabled={drawn.fits === 0}
            onClick={() => apply((d) => withCount(d, g, drawn.fits, false), "fit")}
          >
            {drawn.fits} lengthwise
          </button>
          ,{" "}
          <button
            type="button"
            className="link"
            disabled={drawn.fits_turned === 0}
            onClick={() => apply((d) => withCount(d, g, drawn.fits_turned, true), "fit")}
          >
            {drawn.fits_turned} athwart
          </button>
        </p>
      )}
      <details className="mt-1">
        <summary className="link cursor-pointer">its datasheet</summary>
        <TextField pointer={at("model")} label="Name" width={150} optional="text" />
        <ChoiceField pointer={at("build")} label="Made of" options={BUILDS} />
        <CheckField pointer={at("half_cut")} label="Half-cut cells" />
        <NumberField
          pointer={at("cells_across")}
          label="Cells across"
          kind="count"
          step={1}
          hint="Cells side by side along the short side"
        />
        <NumberField
          pointer={at("cells_along")}
          label="Cells along"
          kind="count"
          step={1}
          hint="Cells one after another along the long side"
        />
        <NumberField pointer={at("mass_kg")} label="Mass, each" kind="mass_kg" usual={null} step={0.5} />
        <NumberField pointer={at("price")} label="Price, each" kind="money" usual={null} step={10} />
        <NumberField pointer={at("open_circuit_v")} label="Voc" kind="voltage_v" usual={null} step={0.1} />
        <NumberField pointer={at("short_circuit_a")} label="Isc" kind="current_a" usual={null} step={0.1} />
        <NumberField pointer={at("best_v")} label="Vmp" kind="voltage_v" usual={null} step={0.1} />
        <NumberField pointer={at("best_a")} label="Imp" kind="current_a" usual={null} step={0.1} />
        <NumberField
          pointer={at("power_coefficient_per_k")}
          label="Power with heat"
          kind="fraction"
          unit="%/K"
          step={0.01}
          hint="What a degree over 25 takes, about -0.3 to -0.4 %"
        />
        <NumberField
          pointer={at("voltage_coefficient_per_k")}
          label="Voc with heat"
          kind="fraction"
          unit="%/K"
          usual={null}
          step={0.01}
        />
        <NumberField
          pointer={at("bifaciality_frac")}
          label="Two-sided"
          kind="fraction"
          step={5}
          hint="What the back gives in the light that the front is rated in; 0 for a panel with an opaque back"
        />
      </details>
      <details className="mt-1">
        <summary className="link cursor-pointer">as it is today</summary>
        <NumberField
          pointer={at("derate_frac")}
          label="Measured, of nameplate"
          kind="fraction"
          step={1}
          hint="Used panels: what a clear noon gave, over what it should have; 100 for new ones"
        />
        <CheckField pointer={at("covered")} label="Under a clear cover" />
        <ChoiceField pointer={at("belongs")} label="In the set" options={SETS} />
        <Leaves g={g} />
        {several && (
          <button
            type="button"
            className="link"
            onClick={() => apply((d) => withoutGroup(d, group.id), "panels")}
          >
            remove these panels
          </button>
        )}
      </details>
    </fieldset>
  );
}

/** The leaves of a folding panel, each at its own tilt. */
function Leaves({ g }: { g: number }) {
  const { design, apply } = useDesign();
  const leaves = design.panels?.[g]?.leaf_tilts_deg ?? [];
  const set = (tilts: number[]) =>
    apply(
      (d) => ({
        ...d,
        panels: (d.panels ?? []).map((group, i) => (i === g ? { ...group, leaf_tilts_deg: tilts } : group)),
      }),
      "leaves",
    );
  if (leaves.length === 0)
    return (
      <button type="button" className="link" onClick={() => set(USUAL_LEAVES)}>
        it folds: set its leaves apart
      </button>
    );
  return (
    <>
      <p className="mt-1 mb-0.5 text-[13px] text-muted">
        Tilt of each leaf, end to end along the long side; positive faces the bow.
      </p>
      <div className="flex flex-wrap gap-1">
        {leaves.map((_, i) => (
          <NumberField
            key={i}
            pointer={`/panels/${g}/leaf_tilts_deg/${i}`}
            label={`Leaf ${i + 1}`}
            name={`Tilt of leaf ${i + 1}`}
            kind="angle_deg"
            step={5}
            width={52}
            bare
          />
        ))}
      </div>
      <p className="m-0 flex gap-3 text-[13px]">
        <button type="button" className="link" onClick={() => set([...leaves, 0])}>
          one leaf more
        </button>
        <button type="button" className="link" onClick={() => set(leaves.slice(0, -1))}>
          one less
        </button>
      </p>
    </>
  );
}
