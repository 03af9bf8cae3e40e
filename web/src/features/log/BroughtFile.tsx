import { useRef, useState } from "react";
import { client, dataOf, type LogDay, Refused } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useLogbook } from "../../kit/logbook";
import { FileField } from "../../kit/ui/FileField";
import { INPUT, Problem } from "../../kit/ui/fields";
import { LinkButton } from "../../kit/ui/LinkButton";
import { LinesWrong } from "../../kit/ui/Window";
import { counted } from "../../kit/units";

const MOST_BYTES = 8_000_000;
const BATCH = 1000;
const ENTRIES = [
  ["", "let be"],
  ["time", "time"],
  ["date", "date"],
  ["pv_w", "panels, watts"],
  ["pv_v", "panels, volts"],
  ["pv_a", "panels, amps"],
  ["bank_v", "bank, volts"],
  ["bank_a", "bank, amps"],
  ["charge_frac", "charge"],
  ["motor_w", "motor, watts"],
  ["house_w", "house, watts"],
  ["speed_mps", "speed through the water"],
  ["ground_mps", "speed over the ground"],
  ["wind_mps", "wind"],
  ["waves_m", "waves"],
  ["sky", "sky"],
  ["note", "a word"],
] as const;

type Brought = Awaited<ReturnType<typeof ask>>;
type Recipe = Brought["columns"];

const recipeKey = (columns: Recipe) => `parhelion.recipe.${columns.map((c) => c.heading).join("|")}`;

function kept(columns: Recipe): Recipe | null {
  try {
    return JSON.parse(localStorage.getItem(recipeKey(columns)) ?? "null") as Recipe | null;
  } catch {
    return null;
  }
}

async function ask(body: Parameters<typeof post>[0]) {
  return dataOf(post(body));
}

const post = (body: {
  design: ReturnType<typeof useDesign>["design"];
  text: string;
  name: string;
  on: string | null;
  outing: string;
  recipe: { heading: string; field: string; factor: number }[] | null;
}) => client.POST("/api/log/readings/read", { body });

const minute = (at: string | null) => (at ?? "").slice(0, 16).replace("T", " ");

/** Readings from a file: a table of any layout, a track, a log of sentences; its columns matched once. */
export function BroughtFile({ day, onBrought }: { day: LogDay | null; onBrought: (outing: string) => void }) {
  const { design } = useDesign();
  const { noteOuting, noteReadings } = useLogbook();
  const [file, setFile] = useState<{ text: string; name: string } | null>(null);
  const [found, setFound] = useState<Brought | null>(null);
  const [wrong, setWrong] = useState("");
  const [said, setSaid] = useState("");
  const turn = useRef(0);

  async function read(text: string, name: string, recipe: Recipe | null) {
    setWrong("");
    setSaid("");
    const body = {
      design,
      text,
      name,
      on: day ? day.starts_at.slice(0, 10) : null,
      outing: day?.outing.id ?? "",
      recipe,
    };
    turn.current += 1;
    const mine = turn.current;
    try {
      const first = await ask(body);
      const known = recipe === null ? kept(first.columns) : null;
      const answer = known ? await ask({ ...body, recipe: known }) : first;
      if (mine === turn.current) setFound(answer);
    } catch (error) {
      if (mine !== turn.current) return;
      const problem = error instanceof Refused ? error.problems[0] : undefined;
      setWrong(problem ? `${problem.message} Accepted: ${problem.accepted}.` : "The file could not be read.");
      setFound(null);
    }
  }
  function match(heading: string, field: string) {
    if (!found || !file) return;
    const recipe = found.columns.map((column) =>
      column.heading === heading
        ? { ...column, field }
        : column.field === field
          ? { ...column, field: "" }
          : column,
    );
    localStorage.setItem(recipeKey(recipe), JSON.stringify(recipe));
    setFound({ ...found, columns: recipe }); // the next choice is made on top of this one
    void read(file.text, file.name, recipe);
  }
  function bring() {
    if (!found) return;
    for (const outing of found.outings) noteOuting(outing);
    for (let from = 0; from < found.readings.length; from += BATCH)
      noteReadings(found.readings.slice(from, from + BATCH));
    setSaid(`${counted(found.readings.length, "reading")} brought in.`);
    const last = found.readings.at(-1)?.outing_id;
    if (last) onBrought(last);
    setFound(null);
    setFile(null);
  }
  return (
    <div className="grid gap-1 text-[13.5px]">
      <FileField
        label="readings from a file (CSV, GPX, NMEA)"
        name="readings"
        accept=".csv,.txt,.tsv,.gpx,.nmea,.log,text/*"
        mostBytes={MOST_BYTES}
        onText={(text, chosen) => {
          setFile({ text, name: chosen.name });
          void read(text, chosen.name, null);
        }}
        onTooLarge={() => setWrong("This file is larger than 8 MB: cut it by days.")}
      />
      {wrong && <Problem id="brought-file" text={wrong} />}
      {found && (
        <>
          {found.columns.map((column) => (
            <label key={column.heading} className="flex items-center justify-between gap-2">
              <span className="truncate">{column.heading}</span>
              <select
                className={INPUT}
                value={column.field}
                onChange={(event) => match(column.heading, event.target.value)}
              >
                {ENTRIES.map(([field, words]) => (
                  <option key={field} value={field}>
                    {words}
                  </option>
                ))}
              </select>
            </label>
          ))}
          {found.lacks ? (
            <Problem id="brought-columns" text={found.lacks} />
          ) : (
            <p className="m-0" role="status">
              {counted(found.readings.length, "reading")}, {minute(found.from_at)} to {minute(found.to_at)}
              {found.left > 0 && `; ${counted(found.left, "line")} not taken`}.
            </p>
          )}
          <LinesWrong of={found.problems} />
          {!found.lacks && (
            <LinkButton className="justify-self-start font-semibold" onClick={bring}>
              bring them in
            </LinkButton>
          )}
        </>
      )}
      {said && (
        <p className="m-0" role="status">
          {said}
        </p>
      )}
    </div>
  );
}
