import { useEffect, useState } from "react";
import { type BoatDesign, client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { Alarm } from "../../kit/ui/Alarm";
import { FileField } from "../../kit/ui/FileField";
import { LinesWrong, Window } from "../../kit/ui/Window";
import { shown } from "../../kit/units";

const PAUSE_MS = 250;
const MOST_BYTES = 200_000;
const EXAMPLE = "3.2\t2.8\t245\n4.1\t3.7\t512";

/** Runs from a spreadsheet or a CSV file: what can be read is shown first, what cannot is told line by line. */
export function PasteRuns({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const [text, setText] = useState("");
  const [found, setFound] = useState<Awaited<ReturnType<typeof read>> | null>(null);
  const [failed, setFailed] = useState("");

  async function read(pasted: string) {
    const taken_ids = (design.runs ?? []).map((run) => run.id);
    return dataOf(
      client.POST("/api/hull/runs/read", { body: { text: pasted, unit: units.speed, taken_ids } }),
    );
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: read again when the text changes
  useEffect(() => {
    if (!text.trim()) return setFound(null);
    const timer = setTimeout(() => {
      read(text).then(
        (runs) => {
          setFound(runs);
          setFailed("");
        },
        () => setFailed("The server did not answer; your text is kept here."),
      );
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text]);

  function add() {
    const runs = found?.runs ?? [];
    apply(
      (current): BoatDesign => ({ ...current, runs: [...(current.runs ?? []), ...runs].slice(0, 60) }),
      `paste-${Date.now()}`,
    );
    setText("");
    setFound(null);
    onOpen(false);
  }

  const speed = (value: number) => shown({ quantity: "speed_mps", value, signed: false }, units);
  return (
    <Window
      open={open}
      onOpen={onOpen}
      title="Paste runs"
      about={
        <>
          Columns: speed out, speed back, battery watts. A heading may name them, volts and amps too; numbers
          may carry units and decimal commas. A span is written 4.0-4.5. Speeds without a unit are in{" "}
          {units.speed}.
        </>
      }
      width={540}
      closing="Cancel"
      foot={
        <button type="button" className="btn" data-main disabled={!found?.runs.length} onClick={add}>
          {found?.runs.length === 1 ? "Add 1 run" : `Add ${found?.runs.length ?? 0} runs`}
        </button>
      }
    >
      <textarea
        aria-label="Runs to paste"
        className="h-[130px] w-full rounded-[5px] border border-edge bg-field p-2 text-ink placeholder:text-muted"
        placeholder={EXAMPLE}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <p className="m-0 mt-1 text-[13px]">
        <FileField
          inline
          label="or a CSV file"
          name="Runs from a file"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          mostBytes={MOST_BYTES}
          onText={setText}
          onTooLarge={() => setFailed("This file is larger than 200 kB.")}
        />
      </p>
      {failed && <Alarm>{failed}</Alarm>}
      <LinesWrong of={found?.problems ?? []} />
      {(found?.runs ?? []).length > 0 && (
        <ul className="m-0 mt-2 list-none p-0" aria-label="Runs that were read">
          {found?.runs.map((run) => (
            <li key={run.id} className="tabular border-b border-hairline py-0.5">
              {speed(run.speed_mps)}
              {run.speed_to_mps != null && ` to ${speed(run.speed_to_mps)}`}
              {run.back_speed_mps != null ? `, back ${speed(run.back_speed_mps)}` : ", one way"}
              {run.power_w != null
                ? `, ${Math.round(run.power_w)}${run.power_to_w != null ? ` to ${Math.round(run.power_to_w)}` : ""} W`
                : `, ${run.volts} V × ${run.amps} A`}
              {run.set_name && `, ${run.set_name}`}
            </li>
          ))}
        </ul>
      )}
    </Window>
  );
}
