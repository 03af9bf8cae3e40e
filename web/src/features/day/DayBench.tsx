import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type DayPicture, dataOf } from "../../api/client";
import { useDesign } from "../../app/design";
import { useUnits } from "../../app/preferences";
import { withValue } from "../../shared/pointer";
import { Fold } from "../../shared/ui/Fold";
import { ChoiceField, Group, NumberField, TextField } from "../../shared/ui/fields";
import { shown } from "../../shared/units";
import { withBank, withLoad, withoutBank, withoutLoad, withoutPanels, withPanels } from "./parts";

const SKIES = [
  ["clear", "clear"],
  ["hazy", "hazy"],
  ["broken", "broken"],
  ["overcast", "overcast"],
  ["rain", "rain, fog"],
] as const;
const CHEMISTRIES = [
  ["lfp", "LFP"],
  ["nmc", "NMC"],
  ["agm", "AGM"],
  ["flooded", "Flooded lead"],
  ["gel", "Gel"],
] as const;
const SIDES = [
  ["bow", "to the bow"],
  ["starboard", "to starboard"],
  ["stern", "to the stern"],
  ["port", "to port"],
] as const;
const AIR = [
  ["open", "air on both sides"],
  ["on_surface", "lying on deck"],
] as const;

type FoldName = "place" | "bank" | "panels" | "house";

/** The day, and what meets it. */
export function DayBench({ picture }: { picture: DayPicture | undefined }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const [open, setOpen] = useState<FoldName | null>(null);
  const fold = (name: FoldName) => ({
    open: open === name,
    onOpen: (on: boolean) => setOpen(on ? name : null),
  });
  const bank = design.banks?.[0];
  const loads = design.loads ?? [];
  const power = (value: number) => shown({ quantity: "power_w", value, signed: false }, units);

  return (
    <div className="bench border-r border-hairline px-5 py-3">
      <Group title="Sky">
        <TextField pointer="/plan/date" label="Date" type="date" width={140} />
        <fieldset className="m-0 mb-1 flex flex-wrap gap-1.5 border-0 p-0">
          <legend className="sr-only">Sky</legend>
          {SKIES.map(([sky, label]) => (
            <button
              key={sky}
              type="button"
              className="btn min-h-[28px]! px-2.5!"
              data-main={design.plan.sky === sky || undefined}
              aria-pressed={design.plan.sky === sky}
              onClick={() => apply((current) => withValue(current, "/plan/sky", sky), "sky")}
            >
              {label}
            </button>
          ))}
        </fieldset>
      </Group>
      <Group title="Under way">
        <NumberField pointer="/plan/speed_mps" label="Speed" kind="speed_mps" step={0.1} />
        <NumberField
          pointer="/plan/start_charge_frac"
          label="Bank at the start"
          kind="fraction"
          step={5}
          hint="At sunrise, when the drawn day begins"
        />
        <Spells picture={picture} />
      </Group>
      <Fold title="Place" summary={design.site.name ?? ""} {...fold("place")}>
        <PlaceFields zone={picture?.zone} air={picture?.air_temperature_c} />
      </Fold>
      <Fold
        title="Bank"
        summary={
          bank
            ? `${CHEMISTRIES.find(([key]) => key === bank.chemistry)?.[1]} ${bank.nominal_v} V ${bank.capacity_ah} Ah`
            : "none"
        }
        {...fold("bank")}
      >
        {bank ? (
          <>
            <ChoiceField pointer="/banks/0/chemistry" label="Chemistry" options={CHEMISTRIES} />
            <NumberField pointer="/banks/0/nominal_v" label="Volts" kind="ratio" unit="V" step={1} />
            <NumberField
              pointer="/banks/0/capacity_ah"
              label="Amp-hours at those volts"
              kind="capacity_ah"
              step={10}
            />
            <NumberField
              pointer="/banks/0/reserve_frac"
              label="Reserve"
              kind="fraction"
              usual={picture?.reserve_frac ?? null}
              step={5}
              hint="State of charge kept back; empty means usual for the chemistry"
            />
            <button type="button" className="link" onClick={() => apply(withoutBank, "bank")}>
              no bank
            </button>
          </>
        ) : (
          <>
            <p className="mt-0 mb-1 text-muted">Without a bank the panels drive the motor directly.</p>
            <button type="button" className="link" onClick={() => apply(withBank, "bank")}>
              add a bank
            </button>
          </>
        )}
      </Fold>
      <Fold
        title="Panels"
        summary={design.panels?.length ? (picture ? `${power(sumOf(design))} nameplate` : "") : "none"}
        {...fold("panels")}
      >
        <Panels />
      </Fold>
      <Fold title="House" summary={loads.length ? `${loads.length} loads` : "none"} {...fold("house")}>
        <Loads />
      </Fold>
    </div>
  );
}

/** The nameplates as the label of the fold; the core adds them up for every answer. */
function sumOf(design: ReturnType<typeof useDesign>["design"]): number {
  return (design.panels ?? []).reduce((sum, group) => sum + group.nameplate_w * (group.count ?? 1), 0);
}

function Spells({ picture }: { picture: DayPicture | undefined }) {
  const { design, apply } = useDesign();
  const own = design.plan.spells;
  const spells = own ?? picture?.spells ?? [];
  const set = (next: unknown) => apply((current) => withValue(current, "/plan/spells", next), "spells");
  return (
    <div className="mt-2">
      <h3 className="m-0 mb-1 text-[14px] font-normal">Motoring hours</h3>
      {!own && (
        <p className="m-0 mb-1 text-[13px] text-muted">
          {spells.length
            ? `The useful sun, ${spells.map((item) => `${item.starts_at.slice(0, 5)} to ${item.ends_at.slice(0, 5)}`).join(", ")}.`
            : "No useful sun on this day."}
        </p>
      )}
      {own?.map((spell, index) => (
        <div key={`${index}-${own.length}`} className="mb-1 flex flex-wrap items-center gap-1.5">
          <TextField
            bare
            pointer={`/plan/spells/${index}/starts_at`}
            label={`Spell ${index + 1} from`}
            type="clock"
            width={64}
          />
          <span>to</span>
          <TextField
            bare
            pointer={`/plan/spells/${index}/ends_at`}
            label={`Spell ${index + 1} to`}
            type="clock"
            width={64}
          />
          {minutesBefore(spell) && <span className="text-[13px] text-muted">next day</span>}
          <button
            type="button"
            className="cross"
            aria-label={`Remove spell ${index + 1}`}
            onClick={() => set(own.length > 1 ? own.filter((_, i) => i !== index) : null)}
          >
            ×
          </button>
        </div>
      ))}
      <div className="flex gap-4">
        {own ? (
          <button type="button" className="link" onClick={() => set(null)}>
            use the useful sun
          </button>
        ) : (
          <button
            type="button"
            className="link"
            onClick={() => set(spells.length ? spells : [{ starts_at: "10:00:00", ends_at: "16:00:00" }])}
          >
            set my own
          </button>
        )}
        {own && own.length < 8 && (
          <button
            type="button"
            className="link"
            onClick={() => set([...own, { starts_at: "20:00:00", ends_at: "21:00:00" }])}
          >
            add hours
          </button>
        )}
      </div>
    </div>
  );
}

const minutesBefore = (spell: { starts_at: string; ends_at: string }) => spell.ends_at < spell.starts_at;

function PlaceFields({ zone, air }: { zone: string | undefined; air: number | undefined }) {
  const { design, apply } = useDesign();
  const places =
    useQuery({
      queryKey: ["places"],
      queryFn: () => dataOf(client.GET("/api/places")),
      staleTime: Number.POSITIVE_INFINITY,
    }).data ?? [];
  const site = design.site;
  const listed = places.findIndex(
    (item) => item.latitude_deg === site.latitude_deg && item.longitude_deg === site.longitude_deg,
  );
  return (
    <>
      <div className="mb-1.5 grid min-h-[30px] grid-cols-[1fr_auto] items-center">
        <label htmlFor="known-place">Known place</label>
        <select
          id="known-place"
          className="h-[28px] w-[170px] rounded-[5px] border border-edge bg-field px-1 text-ink"
          value={listed}
          onChange={(event) => {
            const chosen = places[Number(event.target.value)];
            if (chosen) apply((current) => ({ ...current, site: chosen }), "site");
          }}
        >
          {listed < 0 && <option value={-1}>your own</option>}
          {places.map((place, index) => (
            <option key={place.name} value={index}>
              {place.name}
            </option>
          ))}
        </select>
      </div>
      <TextField pointer="/site/name" label="Called" />
      <NumberField pointer="/site/latitude_deg" label="Latitude, north +" kind="angle_deg" step={0.5} />
      <NumberField pointer="/site/longitude_deg" label="Longitude, east +" kind="angle_deg" step={0.5} />
      <ChoiceField
        pointer="/site/water"
        label="Water"
        options={[
          ["fresh", "fresh"],
          ["salt", "salt"],
        ]}
        width={90}
      />
      <NumberField
        pointer="/plan/heading_deg"
        label="Heading; empty: any"
        kind="angle_deg"
        usual={null}
        step={5}
      />
      <NumberField
        pointer="/plan/air_temperature_c"
        label="Air by day"
        kind="temperature_c"
        usual={air ?? null}
        step={1}
      />
      {zone && <p className="m-0 text-[13px] text-muted">Clock: {zone.replaceAll("_", " ")}</p>}
    </>
  );
}

function Panels() {
  const { design, apply } = useDesign();
  const groups = design.panels ?? [];
  return (
    <>
      {groups.map((group, index) => {
        const place = (design.places ?? []).findIndex((item) => item.id === group.place_id);
        const controller = (design.controllers ?? []).findIndex((item) => item.id === group.controller_id);
        const tilted = ((design.places ?? [])[place]?.tilt_deg ?? 0) > 0;
        return (
          <fieldset
            key={group.id}
            className="m-0 mb-2 border-0 border-b border-solid border-hairline p-0 pb-1"
          >
            <legend className="sr-only">Panel group {index + 1}</legend>
            <TextField pointer={`/places/${place}/name`} label="Where" width={150} />
            <NumberField
              pointer={`/panels/${index}/nameplate_w`}
              label="Nameplate, each"
              kind="power_w"
              step={5}
            />
            <NumberField pointer={`/panels/${index}/count`} label="How many" kind="count" step={1} />
            <NumberField
              pointer={`/places/${place}/tilt_deg`}
              label="Tilt; flat is 0"
              kind="angle_deg"
              step={5}
            />
            {tilted && <ChoiceField pointer={`/places/${place}/faces`} label="Tilted" options={SIDES} />}
            <ChoiceField pointer={`/places/${place}/ventilation`} label="Cooling" options={AIR} />
            <NumberField
              pointer={`/controllers/${controller}/efficiency`}
              label="Controller efficiency"
              kind="fraction"
              step={1}
            />
            <NumberField
              pointer={`/controllers/${controller}/current_limit_a`}
              label="Its current limit"
              kind="ratio"
              unit="A"
              usual={null}
              step={5}
              hint="Empty: it never clips"
            />
            <button
              type="button"
              className="link"
              onClick={() => apply((current) => withoutPanels(current, group.id), "panels")}
            >
              remove these
            </button>
          </fieldset>
        );
      })}
      <button type="button" className="link" onClick={() => apply(withPanels, "panels")}>
        add panels
      </button>
    </>
  );
}

function Loads() {
  const { design, apply } = useDesign();
  const loads = design.loads ?? [];
  return (
    <>
      {loads.length > 0 && (
        <table className="mb-1 w-full border-collapse">
          <thead>
            <tr className="text-[13px] text-muted">
              <th className="text-left font-normal">load</th>
              <th className="text-right font-normal">W</th>
              <th className="text-right font-normal">h/day</th>
              <th className="text-right font-normal">from</th>
              <th>
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {loads.map((load, index) => (
              <tr key={load.id} className="border-b border-hairline align-top">
                <td className="py-0.5">
                  <TextField
                    bare
                    pointer={`/loads/${index}/name`}
                    label={`Load ${index + 1}, name`}
                    width={84}
                  />
                </td>
                <td className="text-right">
                  <NumberField
                    bare
                    pointer={`/loads/${index}/power_w`}
                    label=""
                    name={`Load ${index + 1}, watts`}
                    kind="power_w"
                    width={48}
                    step={1}
                  />
                </td>
                <td className="text-right">
                  <NumberField
                    bare
                    pointer={`/loads/${index}/hours_per_day`}
                    label=""
                    name={`Load ${index + 1}, hours a day`}
                    kind="duration_h"
                    width={44}
                    step={0.5}
                  />
                </td>
                <td className="text-right">
                  <TextField
                    bare
                    optional
                    pointer={`/loads/${index}/from_clock`}
                    label={`Load ${index + 1}, switched on at; empty is spread over the day`}
                    type="clock"
                    width={62}
                  />
                </td>
                <td>
                  <button
                    type="button"
                    className="cross"
                    aria-label={`Remove ${load.name}`}
                    onClick={() => apply((current) => withoutLoad(current, load.id), "loads")}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button type="button" className="link" onClick={() => apply(withLoad, "loads")}>
        add a load
      </button>
    </>
  );
}
