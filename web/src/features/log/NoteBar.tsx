import { useRef, useState } from "react";
import { client, dataOf, type LogPicture, type LogReading } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useLogbook } from "../../kit/logbook";
import { useUnits } from "../../kit/preferences";
import { newId } from "../../kit/records";
import { INPUT } from "../../kit/ui/fields";
import { type Kind, parsed, unitOf } from "../../kit/units";
import { momentOf, nowClock } from "./moment";
import { placeNow, usePlaceToo } from "./place";

type Values = Partial<
  Pick<LogReading, "pv_w" | "motor_w" | "charge_frac" | "speed_mps" | "bank_v" | "bank_a">
>;
interface Entry {
  name: keyof Values;
  of: string | null;
  label: string;
  kind: Kind;
  low: number;
  high: number;
}

const SKIES = [
  ["clear", "clear"],
  ["hazy", "hazy"],
  ["broken", "broken"],
  ["overcast", "overcast"],
  ["rain", "rain or fog"],
] as const;

/** One line to note a reading in: any of its numbers, a word for the sky, a word of one's own. */
export function NoteBar(props: {
  picture: LogPicture;
  large: boolean;
  onSmall: () => void;
  onBegun: (outing: string) => void; // where a reading of now begins one
}) {
  const { picture, large, onSmall, onBegun } = props;
  const { noteReadings, outingAt } = useLogbook();
  const units = useUnits();
  const { design } = useDesign();
  const [clock, setClock] = useState("");
  const [sky, setSky] = useState("");
  const [word, setWord] = useState("");
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [problems, setProblems] = useState<Record<string, string>>({});
  const [said, setSaid] = useState("");
  const [withPlace, setWithPlace] = usePlaceToo();
  const { day, inputs } = picture;
  const begun = useRef(onBegun); // the page may have gone to another view while a word was understood
  begun.current = onBegun;
  const boxes =
    inputs.length > 1 ? inputs.map((box) => [box.key, box.name] as const) : [[null, "panels"] as const];
  const entries: Entry[] = [
    ...boxes.map(
      ([of, name]): Entry => ({ name: "pv_w", of, label: name, kind: "power_w", low: -500, high: 500_000 }),
    ),
    { name: "motor_w", of: null, label: "motor", kind: "power_w", low: -50_000, high: 1_000_000 },
    { name: "charge_frac", of: null, label: "bank", kind: "fraction", low: 0, high: 1.1 },
    { name: "bank_v", of: null, label: "bank", kind: "voltage_v", low: 0, high: 1200 },
    { name: "bank_a", of: null, label: "bank", kind: "current_a", low: -5000, high: 5000 },
    { name: "speed_mps", of: null, label: "speed", kind: "speed_mps", low: 0, high: 40 },
  ];
  const keyOf = (entry: Entry) => `${entry.name} ${entry.of ?? ""}`;

  /** The numbers of a word, where the server can be asked; else the word as it stands. */
  async function understood(text: string): Promise<{ values: Values; sky: string; note: string }> {
    const plain = { values: {}, sky: "", note: text };
    if (!/\d/.test(text)) return plain;
    try {
      const said = await dataOf(client.POST("/api/log/said", { body: { design, text } }));
      return { values: said.values as Values, sky: said.sky ?? "", note: said.note };
    } catch {
      return plain;
    }
  }

  async function note() {
    const wrong: Record<string, string> = {};
    const byPart = new Map<string | null, Values>();
    for (const entry of entries) {
      const text = texts[keyOf(entry)]?.trim();
      if (!text) continue;
      const found = parsed(text, entry.kind, units);
      if ("problem" in found) wrong[keyOf(entry)] = found.problem;
      else if (found.value < entry.low || found.value > entry.high)
        wrong[keyOf(entry)] = `${entry.label}: that is out of reach.`;
      else byPart.set(entry.of, { ...byPart.get(entry.of), [entry.name]: found.value });
    }
    const at = momentOf(clock, day);
    if (at === null) wrong.clock = "A time such as 14:20, or nothing for now.";
    setProblems(wrong);
    if (at === null || Object.keys(wrong).length > 0) return;
    const text = word.trim();
    if (byPart.size === 0 && !sky && !text)
      return setProblems({ all: "Any number, a word for the sky, or a word of your own." });
    setTexts({}); // what is typed while the word is understood is the next reading's
    setWord("");
    setSky("");
    setClock("");
    const [told, place] = await Promise.all([understood(text), withPlace && !clock ? placeNow() : null]);
    const first = byPart.has(null) || sky || text ? null : [...byPart.keys()][0];
    if (sky || text) byPart.set(null, { ...told.values, ...byPart.get(null) });
    const shown = day?.outing ?? null;
    const outing = shown && clock !== "" ? shown.id : outingAt(shown, at);
    if (outing !== shown?.id) begun.current(outing);
    noteReadings(
      [...byPart].map(([of, values]) => ({
        id: newId(),
        at,
        outing_id: outing,
        source: "hand",
        of,
        ...values,
        ...(of === first ? place : null),
        sky: of === null && (sky || told.sky) ? ((sky || told.sky) as LogReading["sky"]) : null,
        note: of === null ? told.note : "",
        left_out: false,
      })),
    );
    const where =
      withPlace && !clock ? (place ? ", with the place" : "; where she is could not be told") : "";
    setSaid(`Noted at ${clock || nowClock()}${where}.`);
    onSmall();
  }
  const wrongs = Object.values(problems);
  return (
    <form
      className={`no-print log-note ${large ? "log-note-large" : ""}`}
      aria-label="Note a reading"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void note();
      }}
    >
      <label>
        <span>time</span>
        <input
          className={INPUT}
          placeholder="now"
          inputMode="numeric"
          autoComplete="off"
          aria-invalid={"clock" in problems}
          value={clock}
          onChange={(event) => setClock(event.target.value)}
        />
      </label>
      {entries.map((entry) => (
        <label key={keyOf(entry)}>
          <span className="truncate">
            {entry.label}, {unitOf(entry.kind, units)[0]}
          </span>
          <input
            className={INPUT}
            inputMode="decimal"
            autoComplete="off"
            aria-invalid={keyOf(entry) in problems}
            value={texts[keyOf(entry)] ?? ""}
            onChange={(event) => setTexts({ ...texts, [keyOf(entry)]: event.target.value })}
          />
        </label>
      ))}
      <label className="log-note-sky">
        <span>sky</span>
        <select className={INPUT} value={sky} onChange={(event) => setSky(event.target.value)}>
          <option value="">same</option>
          {SKIES.map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <label className="log-note-word">
        <span>in words</span>
        <input
          className={`${INPUT} text-left!`}
          placeholder="13.2 V"
          maxLength={400}
          autoComplete="off"
          value={word}
          onChange={(event) => setWord(event.target.value)}
        />
      </label>
      <button type="submit" className="btn" data-main>
        note it
      </button>
      <p className="log-note-told" role={wrongs.length > 0 ? "alert" : "status"}>
        {wrongs.length > 0 ? wrongs.join(" ") : said}
      </p>
      <label className="log-note-place">
        <input type="checkbox" checked={withPlace} onChange={(event) => setWithPlace(event.target.checked)} />
        with the place
      </label>
    </form>
  );
}
