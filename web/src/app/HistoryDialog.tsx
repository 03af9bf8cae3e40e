import { useQuery } from "@tanstack/react-query";
import { client, dataOf, type Quantity, type RevisionRow } from "../api/client";
import { useDesign } from "../kit/document";
import { useUnits } from "../kit/preferences";
import { Alarm } from "../kit/ui/Alarm";
import { LinkButton } from "../kit/ui/LinkButton";
import { Window } from "../kit/ui/Window";
import { shown } from "../kit/units";
import { useSaving } from "./saving";

const SHOWN = 4; // differences of a state, before "and more"

/** The states this boat was in, and a way back to any of them; undo leads forward again. */
export function HistoryDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { variant } = useDesign();
  const { restore: bringBack } = useSaving();
  const units = useUnits();
  const said = (value: Quantity | null) => (value ? shown(value, units) : "nothing");
  const { data, error, refetch } = useQuery({
    queryKey: ["history", variant.id],
    queryFn: () =>
      dataOf(
        client.GET("/api/variants/{variant_id}/history", { params: { path: { variant_id: variant.id } } }),
      ),
    enabled: open,
    staleTime: 0,
    gcTime: 0,
  });
  function restore(row: RevisionRow) {
    bringBack(row.design);
    onClose();
  }
  return (
    <Window
      open={open}
      onOpen={(on) => !on && onClose()}
      title={`History of ${variant.name}`}
      about="Every state this variant was saved in; edits that follow each other within a minute are one."
      width={560}
      closing="Close"
    >
      {error && (
        <Alarm>
          {error.message} <LinkButton onClick={() => void refetch()}>try again</LinkButton>
        </Alarm>
      )}
      {!data && !error && <p role="status">Reading …</p>}
      <ol className="m-0 list-none p-0">
        {data?.map((row, index) => (
          <li
            key={row.number}
            className="flex items-start justify-between gap-3 border-0 border-b border-solid border-hairline py-1.5"
            data-revision={row.number}
          >
            <span>
              <b>
                {new Date(row.saved_at).toLocaleString("en-GB", {
                  dateStyle: "medium",
                  timeStyle: "short",
                })}
              </b>
              <span className="block text-[13px] text-muted">
                {row.difference.length === 0
                  ? "as it began"
                  : row.difference
                      .slice(0, SHOWN)
                      .map((item) => `${item.label}: ${said(item.before)} → ${said(item.after)}`)
                      .join("; ")}
                {row.difference.length > SHOWN && `; ${row.difference.length - SHOWN} more`}
              </span>
            </span>
            {index === 0 ? (
              <span className="text-[13px] text-muted">now</span>
            ) : (
              <button
                type="button"
                className="btn"
                aria-label={`Restore the state of ${new Date(row.saved_at).toLocaleString("en-GB")}`}
                onClick={() => restore(row)}
              >
                Restore
              </button>
            )}
          </li>
        ))}
      </ol>
    </Window>
  );
}
