import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { type BoatDesign, client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { shown } from "../../kit/units";

const PAUSE_MS = 250;
const EXAMPLE = "3.2\t2.8\t245\n4.1\t3.7\t512";

/** Runs from a spreadsheet or a CSV file: what can be read is shown first, what cannot is told line by line. */
export function PasteRuns({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const { design, apply } = useDesign();
  const units = useUnits();
  const [text, setText] = useState("");
  const [found, setFound] = useState<Awaited<ReturnType<typeof read>> | null>(null);
  const [failed, setFailed] = useState(false);

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
          setFailed(false);
        },
        () => setFailed(true),
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
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/30" />
        <Dialog.Content className="sheet fixed top-1/2 left-1/2 z-30 max-h-[86vh] w-[540px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto p-5">
          <Dialog.Title className="m-0 mb-1 text-[17px] font-bold">Paste runs</Dialog.Title>
          <Dialog.Description className="mt-0 mb-2 text-muted">
            Columns: speed out, speed back, battery watts. A heading may name them, volts and amps too;
            numbers may carry units and decimal commas. A span is written 4.0-4.5. Speeds without a unit are
            in {units.speed}.
          </Dialog.Description>
          <textarea
            aria-label="Runs to paste"
            className="h-[130px] w-full rounded-[5px] border border-edge bg-field p-2 text-ink placeholder:text-muted"
            placeholder={EXAMPLE}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <label className="mt-1 block text-[13px] text-muted">
            or a CSV file{" "}
            <input
              type="file"
              accept=".csv,.txt,.tsv,text/csv,text/plain"
              onChange={async (event) => {
                const file = event.target.files?.[0];
                if (file) setText((await file.text()).slice(0, 200_000));
              }}
            />
          </label>
          {failed && (
            <p role="alert" className="m-0 mt-2 text-alarm">
              ▲ The server did not answer; your text is kept here.
            </p>
          )}
          {(found?.problems ?? []).length > 0 && (
            <ul role="alert" className="m-0 mt-2 list-none p-0 text-[13px] text-alarm">
              {found?.problems.map((problem) => (
                <li key={problem.line}>
                  ▲ Line {problem.line}: {problem.message} Accepted: {problem.accepted}.
                </li>
              ))}
            </ul>
          )}
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
          <div className="mt-3 flex justify-end gap-2">
            <Dialog.Close className="btn">Cancel</Dialog.Close>
            <button type="button" className="btn" data-main disabled={!found?.runs.length} onClick={add}>
              {found?.runs.length === 1 ? "Add 1 run" : `Add ${found?.runs.length ?? 0} runs`}
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
