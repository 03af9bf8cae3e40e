import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { client, dataOf, type Known, Refused } from "../api/client";
import { useList } from "../asking/lists";
import { useUnits } from "../kit/preferences";
import { Alarm } from "../kit/ui/Alarm";
import { Window } from "../kit/ui/Window";
import { split, told } from "../kit/units";
import { HullShape } from "./HullShape";
import { KnownField, type Said, SheetContext } from "./KnownField";
import { summerOf, When, Where } from "./WhereWhen";

const PAUSE_MS = 250;
const TOLD = 3; // cells of the first answer
let kept: Said | null = null; // what was typed, while the sheet is closed

const begin = (known: Known) => dataOf(client.POST("/api/design/begin", { body: known }));
type Begun = Awaited<ReturnType<typeof begin>>;

/** A boat from what her owner knows, answered while it is filled; anything may be left out. */
export function NewBoatDialog({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const entries = useList("known").data;
  const places = useList("places").data;
  const [said, setSaid] = useState<Said>(kept ?? { known: {}, texts: {} });
  useEffect(() => {
    kept = said;
  }, [said]);
  const site = said.known.site ?? places?.[0];
  const known = {
    hull_type: "launch",
    bank: "usual",
    panels: "usual",
    outing: "day",
    motors: 1,
    chemistry: "lfp",
    ...said.known,
    site,
    date: said.known.date ?? summerOf(site),
  } as Known;
  const asked = useLater(site ? known : null);
  const begun = useQuery({
    queryKey: ["begin", asked],
    queryFn: () => begin(asked as Known),
    enabled: asked !== null,
    placeholderData: (before) => before,
    retry: false,
  });
  const add = useMutation({
    mutationFn: (_: "hull" | "wish") => {
      const kind = entries?.words("/hull_type")[known.hull_type ?? ""] ?? "boat";
      return dataOf(
        client.POST("/api/boats", { body: { ...known, name: known.name ?? `New ${kind.toLowerCase()}` } }),
      );
    },
    onSuccess: (boat, station) => {
      queries.invalidateQueries({ queryKey: ["boats"] });
      setSaid({ known: {}, texts: {} });
      kept = null;
      onOpen(false);
      navigate(`/${station}/${boat.variants.find((item) => item.is_working)?.id}`);
    },
  });
  const put = (name: keyof Known, value: unknown) =>
    setSaid((now) => {
      const { [name]: _, ...rest } = now.known;
      return { ...now, known: value == null ? rest : { ...rest, [name]: value } };
    });
  const type = (name: string, text: string) =>
    setSaid((now) => ({ ...now, texts: { ...now.texts, [name]: text } }));
  const unread = Object.keys(said.texts).some(
    (name) =>
      said.texts[name]?.trim() && said.known[name as keyof Known] === undefined && isShown(name, known),
  );
  const refused = [begun.error, add.error].find((error) => error instanceof Refused);
  const problems = refused instanceof Refused ? refused.problems : [];

  return (
    <Window open={open} onOpen={onOpen} title="A new boat" about={ABOUT} width={760}>
      {!entries ? (
        <p role="status">One moment …</p>
      ) : (
        <SheetContext.Provider value={{ said: { ...said, known }, entries, problems, put, type }}>
          <form
            onSubmit={(event: FormEvent) => {
              event.preventDefault();
              add.mutate("hull");
            }}
          >
            <fieldset className="m-0 mb-2 grid grid-cols-[repeat(auto-fill,minmax(112px,1fr))] gap-1 border-0 p-0">
              <legend className="sr-only">{entries.at("/hull_type").label}</legend>
              {entries.options("/hull_type").map(([key, label]) => (
                <button
                  key={key}
                  type="button"
                  className="hull-choice"
                  aria-pressed={known.hull_type === key}
                  onClick={() => put("hull_type", key)}
                >
                  <HullShape type={key} />
                  {label}
                </button>
              ))}
            </fieldset>
            <div className="grid gap-x-8 sm:grid-cols-2">
              <div>
                <Part title="Boat">
                  <KnownField name="name" />
                  <KnownField name="overall_m" />
                  <KnownField name="waterline_m" />
                  <KnownField name="weighs_kg" />
                  <KnownField name="people" />
                </Part>
                <Part title="Use">
                  <KnownField name="outing" />
                  <Where
                    site={site}
                    onSite={(next) => setSaid((now) => ({ ...now, known: { ...now.known, site: next } }))}
                  />
                  <KnownField
                    name="water"
                    means={begun.data && entries.words("/water")[begun.data.design.site.water ?? ""]}
                  />
                  <When date={known.date} onDate={(date) => put("date", date)} />
                </Part>
              </div>
              <div>
                <Part title="Motor">
                  <KnownField name="motors" />
                  <KnownField name="motor_w" />
                  <KnownField name="thrust_n" />
                  {said.known.thrust_n !== undefined && <KnownField name="motor_a" />}
                </Part>
                <Part title="Battery">
                  <KnownField name="bank" />
                  {known.bank === "own" && (
                    <>
                      <KnownField name="bank_v" />
                      <KnownField name="bank_ah" />
                      <KnownField name="chemistry" />
                    </>
                  )}
                </Part>
                <Part title="Panels">
                  <KnownField name="panels" />
                  {known.panels !== "none" && (
                    <>
                      {known.panels === "own" && (
                        <>
                          <KnownField name="panel_count" />
                          <KnownField name="panel_w" />
                        </>
                      )}
                      <KnownField name="panel_place" />
                    </>
                  )}
                </Part>
              </div>
            </div>
            {add.error && !problems.length && <Alarm>{add.error.message}</Alarm>}
            <FirstAnswer
              begun={begun.data}
              stale={begun.isFetching}
              failed={begun.error?.message ?? (unread ? "A number above cannot be read." : null)}
            >
              <button type="button" className="btn" onClick={() => onOpen(false)}>
                Cancel
              </button>
              <button
                type="button"
                className="btn"
                disabled={add.isPending || begun.isError || unread}
                onClick={() => add.mutate("wish")}
              >
                Begin with a wish
              </button>
              <button
                type="submit"
                className="btn"
                data-main
                disabled={add.isPending || begun.isError || unread}
              >
                Start
              </button>
            </FirstAnswer>
          </form>
        </SheetContext.Provider>
      )}
    </Window>
  );
}

/** Whether an entry stands on the sheet: what is bought is asked only of what is the owner's own. */
function isShown(name: string, known: Known): boolean {
  if (["bank_v", "bank_ah"].includes(name)) return known.bank === "own";
  if (["panel_count", "panel_w"].includes(name)) return known.panels === "own";
  return name !== "motor_a" || known.thrust_n != null;
}

const ABOUT =
  "Say what you know; the rest starts at what is usual and can be changed. 24 lb or 5ft 6 is read too.";

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-2">
      <h3 className="m-0 text-[14px] text-muted">{title}</h3>
      {children}
    </section>
  );
}

/** A value that has stood still for a moment. */
function useLater<T>(value: T): T {
  const text = JSON.stringify(value);
  const [held, setHeld] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setHeld(text), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return JSON.parse(held) as T;
}

/** What the boat does as far as she is known, with its band. */
function FirstAnswer(props: { begun?: Begun; stale: boolean; failed: string | null; children: ReactNode }) {
  const { begun, stale, failed, children } = props;
  const units = useUnits();
  return (
    <div className="sheet-foot max-sm:flex-wrap">
      <div
        className={`flex flex-wrap gap-x-6 ${stale ? "opacity-70" : ""}`}
        aria-live="polite"
        aria-busy={stale}
      >
        {failed && <p className="m-0 max-w-[480px] text-alarm">▲ {failed}</p>}
        {!failed &&
          begun?.rail.slice(0, TOLD).map((cell) => {
            const [low, high] = cell.band ?? [];
            const [number, unit] = cell.value ? split(cell.value, units) : ["–", ""];
            return (
              <p key={cell.key} className="m-0 text-[13px] text-muted">
                {cell.label}
                <b className="block text-[19px] leading-tight text-ink">
                  {number} <span className="text-[13px] font-normal">{unit}</span>
                </b>
                {low && high && `${split(low, units)[0]} to ${split(high, units).join(" ")}`}
                {cell.reason && <span className="block max-w-[200px]">{told(cell.reason, units)}</span>}
              </p>
            );
          })}
      </div>
      <div className="ml-auto flex gap-2 self-end whitespace-nowrap max-sm:w-full max-sm:flex-wrap max-sm:justify-end">
        {children}
      </div>
    </div>
  );
}
