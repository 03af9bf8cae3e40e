import { useEffect, useState } from "react";
import { client, dataOf, type PanelModel, type ReadModules } from "../../api/client";
import { useList } from "../../asking/lists";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { FileField } from "../../kit/ui/FileField";
import { LinesWrong, Window } from "../../kit/ui/Window";

import { withModel } from "./parts";

const PAUSE_MS = 250;
const MOST_BYTES = 20_000_000;
const BUILT: Record<string, string> = { glass: "glass", flexible: "flexible", folding: "folding" };

/** Panels to choose from: the list that comes with the program, or a table of modules from a file. */
export function PanelChooser({ g, onClose }: { g: number; onClose: () => void }) {
  const { apply } = useDesign();
  const [table, setTable] = useState<string | null>(null);
  const [search, setSearch] = useState("");
  const [read, setRead] = useState<ReadModules | null>(null);
  const [state, setState] = useState<"" | "reading" | "failed" | "too large">("");
  const list = useList("panel-models");
  useEffect(() => {
    if (table === null) return;
    const waiting = setTimeout(() => {
      setState("reading");
      dataOf(client.POST("/api/array/modules", { body: { text: table, search } })).then(
        (found) => {
          setRead(found);
          setState("");
        },
        () => setState("failed"),
      );
    }, PAUSE_MS);
    return () => clearTimeout(waiting);
  }, [table, search]);
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const own = (list.data ?? []).filter((panel) =>
    words.every((word) => `${panel.model} ${BUILT[panel.build ?? "glass"]}`.toLowerCase().includes(word)),
  );
  const panels = table === null ? own : (read?.panels ?? []);
  return (
    <Window
      open
      onOpen={(open) => !open && onClose()}
      title="Choose a panel"
      about="Invented panels with usual datasheets, or your own table: a CSV file, one module a row, with columns STC, V_oc, I_sc, V_mp, I_mp, N_s, length, width and temperature coefficients."
      width={680}
      column
      closing="Cancel"
    >
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <input
          type="search"
          aria-label="Search panels"
          placeholder="Search by name"
          className="h-[30px] w-[200px] rounded-[5px] border border-edge bg-field px-2 text-ink placeholder:text-muted"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        <span className="text-[13px]">
          <FileField
            inline
            label="or a table"
            name="Table of modules"
            accept=".csv,.txt,text/csv,text/plain"
            mostBytes={MOST_BYTES}
            onText={setTable}
            onTooLarge={() => setState("too large")}
          />
        </span>
      </div>
      <p className="m-0 mb-1 min-h-[20px] text-[13px]" role="status">
        {state === "reading" && "Reading the table …"}
        {state === "failed" && <span className="text-alarm">▲ The table could not be read; try again.</span>}
        {state === "too large" && (
          <span className="text-alarm">
            ▲ This file is larger than 20 MB; split it, or keep the rows you need.
          </span>
        )}
        {state === "" && table !== null && read && (
          <>
            {read.read.toLocaleString("en-GB")} of {read.rows.toLocaleString("en-GB")} modules read
            {read.matching > read.panels.length &&
              `; the first ${read.panels.length} of ${read.matching} that match`}
            {read.wrong > 0 && `; ${read.wrong} lines left out`}
          </>
        )}
      </p>
      {table !== null && (read?.problems ?? []).length > 0 && (
        <details
          className="mb-1 max-h-[120px] overflow-y-auto text-[13px] text-alarm"
          open={read?.read === 0}
        >
          <summary className="cursor-pointer">what was wrong</summary>
          <LinesWrong of={read?.problems ?? []} />
        </details>
      )}
      <ul className="m-0 min-h-[120px] flex-1 list-none overflow-y-auto p-0" aria-label="Panels">
        {panels.map((panel, i) => (
          <li key={`${panel.model}/${i}`} className="border-t border-hairline">
            <Row
              panel={panel}
              onChoose={() => {
                apply((d) => withModel(d, g, panel), "model");
                onClose();
              }}
            />
          </li>
        ))}
        {panels.length === 0 && state === "" && (
          <li className="py-3 text-muted">{list.isError ? "The list did not load." : "No panel matches."}</li>
        )}
      </ul>
    </Window>
  );
}

function Row({ panel, onChoose }: { panel: PanelModel; onChoose: () => void }) {
  const say = useSay();
  const cells = `${panel.cells_across} × ${panel.cells_along} cells${panel.half_cut ? ", half-cut" : ""}`;
  return (
    <button
      type="button"
      className="grid w-full cursor-pointer grid-cols-[1fr_auto] gap-x-3 border-0 bg-transparent px-1 py-1.5 text-left text-ink hover:bg-mist"
      data-model={panel.model}
      onClick={onChoose}
    >
      <span>
        <b>{panel.model}</b>
        <span className="block text-[13px] text-muted">
          {BUILT[panel.build ?? "glass"]}, {cells}
          {(panel.bifaciality_frac ?? 0) > 0 && ", two-sided"}
          {panel.open_circuit_v != null && ` · Voc ${panel.open_circuit_v.toFixed(1)} V`}
          {panel.short_circuit_a != null && `, Isc ${panel.short_circuit_a.toFixed(1)} A`}
        </span>
      </span>
      <span className="tabular text-right">
        <b>{say("power_w", panel.nameplate_w)}</b>
        <span className="block text-[13px] text-muted">
          {panel.panel_width_m != null &&
            panel.panel_length_m != null &&
            `${say("length_m", panel.panel_width_m)} × ${say("length_m", panel.panel_length_m)}`}
          {panel.mass_kg != null && `, ${say("mass_kg", panel.mass_kg)}`}
          {panel.price != null && `, ${say("money", panel.price)}`}
        </span>
      </span>
    </button>
  );
}
