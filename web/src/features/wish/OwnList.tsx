import { client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { LinkButton } from "../../kit/ui/LinkButton";
import { ReadFile } from "../../kit/ui/ReadFile";

const MOST_BYTES = 8_000_000;
const KINDS = { panels: "own_panels", batteries: "own_units", motors: "own_motors" } as const;
type Kind = keyof typeof KINDS;

/** One's own lists of parts, from tables; of what has none, the list that ships is chosen from. */
export function OwnList() {
  const { design, apply } = useDesign();
  const write = (kind: Kind, listed: object[]) =>
    apply((current) => withValue(current, `/wish/${KINDS[kind]}`, listed), `own ${kind}`);
  async function read(text: string) {
    const found = await dataOf(client.POST("/api/wish/parts/read", { body: { text } }));
    const listed = { panels: found.panels, batteries: found.units, motors: found.motors }[found.kind] ?? [];
    if (listed.length > 0) write(found.kind, listed);
    const worse = found.worse > 0 ? `, ${found.worse} left out that others of it make useless` : "";
    return {
      said: `Read as ${found.kind}: ${listed.length} to choose from, of ${found.rows} rows${worse}.`,
      problems: found.problems,
    };
  }
  return (
    <div className="mt-1 text-[13px]">
      <ReadFile
        label="Own list of panels, batteries or motors (CSV)"
        name="Own list of parts"
        accept=".csv,.txt,text/csv,text/plain"
        mostBytes={MOST_BYTES}
        tooLarge="This file is larger than 8 MB; keep the rows you need."
        read={read}
      />
      {(Object.keys(KINDS) as Kind[]).map((kind) => {
        const listed = design.wish?.[KINDS[kind]]?.length ?? 0;
        if (listed === 0) return null;
        return (
          <p key={kind} className="m-0 flex gap-3">
            Own {kind}: {listed}.<LinkButton onClick={() => write(kind, [])}>back to ours</LinkButton>
          </p>
        );
      })}
    </div>
  );
}
