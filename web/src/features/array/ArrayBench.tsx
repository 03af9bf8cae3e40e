import type { ArrayPicture } from "../../api/client";
import { useDesign } from "../../app/design";
import { useUnits } from "../../app/preferences";
import { Fold } from "../../shared/ui/Fold";
import { CheckField, ChoiceField, Group, NumberField, TextField } from "../../shared/ui/fields";
import { useFolds } from "../../shared/ui/useFolds";
import { type Kind, shown } from "../../shared/units";
import {
  AIR,
  KINDS,
  SIDES,
  withCount,
  withGroup,
  withoutPlace,
  withoutSpar,
  withPlace,
  withPosition,
  withSpar,
} from "./parts";

interface Props {
  picture: ArrayPicture | undefined;
  chosen: string | null;
  onChoose: (id: string) => void;
}

/** Places, the panels on them, and what stands in the sun. */
export function ArrayBench({ picture, chosen, onChoose }: Props) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const fold = useFolds<"place" | "panels" | "spars">("panels");
  const say = (quantity: Kind, value: number) => shown({ quantity, value, signed: false }, units);
  const places = design.places ?? [];
  const spars = design.obstacles ?? [];
  const at = places.findIndex((place) => place.id === chosen);
  const index = at >= 0 ? at : 0;
  const place = places[index];
  const drawn = picture?.places.find((item) => item.id === place?.id);
  return (
    <section aria-label="Places, panels and spars" className="bench border-r border-hairline px-5 py-3">
      <Group title="Places on this boat">
        {places.length === 0 && (
          <p className="mt-0 mb-1 text-muted">
            No panels yet. A place is anything that can carry some: a canopy, a rail, a rack ashore.
          </p>
        )}
        {places.map((item) => {
          const now = picture?.places.find((one) => one.id === item.id);
          return (
            <button
              key={item.id}
              type="button"
              className={`mb-1 block w-full cursor-pointer rounded-[6px] border bg-transparent px-2 py-1 text-left text-ink ${item.id === place?.id ? "border-ink bg-field" : "border-transparent"}`}
              aria-pressed={item.id === place?.id}
              data-place={item.id}
              onClick={() => onChoose(item.id)}
            >
              <span className="flex justify-between gap-2">
                <b className="truncate">{item.name}</b>
                <span className="tabular whitespace-nowrap">
                  {now ? say("power_w", now.nameplate_w) : ""}
                </span>
              </span>
              <span className="block text-[13px] text-muted">
                {(item.tilt_deg ?? 0) > 0 ? `tilted ${Math.round(item.tilt_deg ?? 0)}°` : "flat"}
                {item.at ? `, ${say("length_m", item.at.z_m)} up` : ", no position"}
                {now ? ` · ${now.panels} ${now.panels === 1 ? "panel" : "panels"}` : ""}
              </span>
            </button>
          );
        })}
        <button type="button" className="link" onClick={() => apply(withPlace, "place")}>
          add a place
        </button>
      </Group>
      {place && (
        <>
          <Fold
            title="Panels on it"
            summary={drawn ? `${drawn.panels} of ${say("power_w", drawn.nameplate_w)}` : ""}
            {...fold("panels")}
          >
            {(design.panels ?? []).map((group, g) =>
              group.place_id === place.id ? (
                <fieldset key={group.id} className="m-0 mb-2 border-0 p-0">
                  <legend className="sr-only">Panel group {g + 1}</legend>
                  <NumberField
                    pointer={`/panels/${g}/nameplate_w`}
                    label="Nameplate, each"
                    kind="power_w"
                    step={5}
                  />
                  <NumberField pointer={`/panels/${g}/count`} label="How many" kind="count" step={1} />
                  <NumberField
                    pointer={`/panels/${g}/panel_width_m`}
                    label="Short side"
                    kind="length_m"
                    usual={null}
                    step={0.05}
                    hint="Empty: usual for its watts"
                  />
                  <NumberField
                    pointer={`/panels/${g}/panel_length_m`}
                    label="Long side"
                    kind="length_m"
                    usual={null}
                    step={0.05}
                    hint="Empty: usual for its watts"
                  />
                  <CheckField pointer={`/panels/${g}/turned`} label="Long side athwart" />
                  <CheckField pointer={`/panels/${g}/half_cut`} label="Half-cut cells" />
                  <NumberField
                    pointer={`/panels/${g}/cells_across`}
                    label="Cells across"
                    kind="count"
                    step={1}
                    hint="Cells side by side along the short side"
                  />
                  <NumberField
                    pointer={`/panels/${g}/cells_along`}
                    label="Cells along"
                    kind="count"
                    step={1}
                    hint="Cells one after another along the long side"
                  />
                  {drawn && Math.max(drawn.fits, drawn.fits_turned) > 0 && (
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
                </fieldset>
              ) : null,
            )}
            {!(design.panels ?? []).some((group) => group.place_id === place.id) && (
              <button
                type="button"
                className="link"
                onClick={() => apply((d) => withGroup(d, place.id), "panels")}
              >
                put panels here
              </button>
            )}
          </Fold>
          <Fold
            title="Where it is"
            summary={place.at ? `${say("length_m", place.at.z_m)} up` : "not known"}
            {...fold("place")}
          >
            <TextField pointer={`/places/${index}/name`} label="Name" width={150} />
            <ChoiceField pointer={`/places/${index}/kind`} label="It is" options={KINDS} />
            {place.at ? (
              <>
                <NumberField
                  pointer={`/places/${index}/at/x_m`}
                  label="To starboard"
                  kind="length_m"
                  step={0.05}
                  hint="Of its middle from the centreline; to port is negative"
                />
                <NumberField
                  pointer={`/places/${index}/at/y_m`}
                  label="Forward"
                  kind="length_m"
                  step={0.05}
                  hint="Of its middle from amidships; aft is negative"
                />
                <NumberField
                  pointer={`/places/${index}/at/z_m`}
                  label="Height"
                  kind="length_m"
                  step={0.05}
                  hint="Above the waterline"
                />
              </>
            ) : (
              <button
                type="button"
                className="link"
                onClick={() => apply((d) => withPosition(d, index), `/places/${index}/at`)}
              >
                give it a position
              </button>
            )}
            <NumberField
              pointer={`/places/${index}/width_m`}
              label="Athwart"
              kind="length_m"
              usual={null}
              step={0.05}
            />
            <NumberField
              pointer={`/places/${index}/length_m`}
              label="Fore and aft"
              kind="length_m"
              usual={null}
              step={0.05}
            />
            <NumberField
              pointer={`/places/${index}/tilt_deg`}
              label="Tilt; flat is 0"
              kind="angle_deg"
              step={5}
            />
            {(place.tilt_deg ?? 0) > 0 && (
              <ChoiceField pointer={`/places/${index}/faces`} label="Tilted" options={SIDES} />
            )}
            <ChoiceField pointer={`/places/${index}/ventilation`} label="Cooling" options={AIR} />
            <button
              type="button"
              className="link"
              onClick={() => apply((d) => withoutPlace(d, place.id), "place")}
            >
              remove it with its panels
            </button>
          </Fold>
        </>
      )}
      <Fold
        title="Standing in the sun"
        summary={spars.map((spar) => spar.name).join(", ")}
        {...fold("spars")}
      >
        {spars.length === 0 && (
          <p className="mt-0 mb-1 text-muted">Nothing yet. Masts, booms, aerials and crew all shade.</p>
        )}
        {spars.map((spar, s) => {
          const cost = picture?.spars.find((item) => item.id === spar.id)?.cost_wh;
          return (
            <fieldset
              key={spar.id}
              className="m-0 mb-2 border-0 border-b border-solid border-hairline p-0 pb-1"
            >
              <legend className="sr-only">{spar.name}</legend>
              <TextField pointer={`/obstacles/${s}/name`} label="Name" width={150} />
              <NumberField
                pointer={`/obstacles/${s}/radius_m`}
                label="Half its thickness"
                kind="length_m"
                step={0.01}
              />
              <Ends s={s} end="foot" title="Foot" />
              <Ends s={s} end="tip" title="Top" />
              <p className="m-0 flex justify-between gap-2 text-[13px]">
                <span>{cost !== undefined && <>costs {say("energy_wh", cost)} a day</>}</span>
                <button
                  type="button"
                  className="link"
                  onClick={() => apply((d) => withoutSpar(d, spar.id), "spar")}
                >
                  remove
                </button>
              </p>
            </fieldset>
          );
        })}
        <button type="button" className="link" onClick={() => apply(withSpar, "spar")}>
          add a spar
        </button>
      </Fold>
    </section>
  );
}

const AXES = [
  ["x_m", "starboard"],
  ["y_m", "forward"],
  ["z_m", "up"],
] as const;

/** One end of a spar: three small numbers in a row. */
function Ends({ s, end, title }: { s: number; end: "foot" | "tip"; title: string }) {
  const units = useUnits();
  return (
    <div className="mb-1 grid grid-cols-[44px_1fr_1fr_1fr] items-end gap-x-1.5">
      <span className="pb-1">{title}</span>
      {AXES.map(([axis, words]) => (
        <span key={axis} className="text-[12px] text-muted">
          {words} {units.length}
          <NumberField
            pointer={`/obstacles/${s}/${end}/${axis}`}
            label={words}
            name={`${title}, ${words}`}
            kind="length_m"
            step={0.1}
            width={62}
            bare
          />
        </span>
      ))}
    </div>
  );
}
