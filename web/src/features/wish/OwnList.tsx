import { client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { LinkButton } from "../../kit/ui/LinkButton";
import { ReadFile } from "../../kit/ui/ReadFile";

const MOST_BYTES = 8_000_000;

/** One's own list of panels, from a table; without one the list that ships is chosen from. */
export function OwnList() {
  const { design, apply } = useDesign();
  const listed = design.wish?.own_panels?.length ?? 0;
  async function read(text: string) {
    const found = await dataOf(client.POST("/api/wish/panels/read", { body: { text } }));
    if (found.panels.length > 0)
      apply((current) => withValue(current, "/wish/own_panels", found.panels), "own panels");
    const worse = found.worse > 0 ? `, ${found.worse} left out that others of it make useless` : "";
    return {
      said: `${found.panels.length} panels to choose from, of ${found.rows} rows${worse}.`,
      problems: found.problems,
    };
  }
  return (
    <div className="mt-1 text-[13px]">
      <ReadFile
        label="Own list of panels (CSV)"
        name="Own list of panels"
        accept=".csv,.txt,text/csv,text/plain"
        mostBytes={MOST_BYTES}
        tooLarge="This file is larger than 8 MB; keep the rows you need."
        read={read}
      />
      {listed > 0 && (
        <p className="m-0 flex gap-3">
          {listed} of your own are chosen from.
          <LinkButton
            onClick={() => apply((current) => withValue(current, "/wish/own_panels", []), "own panels")}
          >
            back to the list that ships
          </LinkButton>
        </p>
      )}
    </div>
  );
}
