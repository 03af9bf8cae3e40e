import type { LogOuting } from "../../api/client";
import { useList } from "../../asking/lists";
import { useLogbook } from "../../kit/logbook";
import { useToast } from "../../kit/Toast";
import { LinkButton } from "../../kit/ui/LinkButton";
import { OwnField, OwnText } from "../../kit/ui/OwnField";
import { Pauses } from "./Pauses";
import { Pictures } from "./Pictures";

const NOTED = [
  "name",
  "distance_m",
  "planned_m",
  "shore_wh",
  "highest_c",
  "wind_mps",
  "heading_deg",
  "broke",
  "mended",
  "note",
] as const;

/** What is noted of an outing beside its readings. */
export function OutingFields({ outing: shown }: { outing: LogOuting }) {
  const { noteOuting, changeOuting, asChanged, withdrawOuting } = useLogbook();
  const outing = asChanged(shown);
  const toast = useToast();
  const put = (change: Partial<LogOuting>) => changeOuting(shown, change);
  return (
    <>
      {NOTED.filter((name) => name !== "mended" || outing.broke).map((name) => (
        <Noted key={name} name={name} outing={outing} onPut={(value) => put({ [name]: value })} />
      ))}
      <Pictures outing={shown} />
      <Pauses outing={shown} />
      {outing.means_s != null && (
        <p className="m-0 mt-1 text-[13px] text-muted">
          What devices read is kept as means of {outing.means_s} s; what was noted by hand stands as it was.
        </p>
      )}
      <div className="mt-1 flex justify-between gap-3">
        {outing.ended_at == null ? (
          <LinkButton onClick={() => put({ ended_at: new Date().toISOString() })}>end it now</LinkButton>
        ) : (
          <LinkButton onClick={() => put({ ended_at: null })}>it goes on</LinkButton>
        )}
        <LinkButton
          onClick={() => {
            withdrawOuting(outing.id);
            toast({
              text: `${outing.name || "The outing"} is taken away, with its readings.`,
              action: { label: "put it back", run: () => noteOuting(outing) },
            });
          }}
        >
          take it away
        </LinkButton>
      </div>
    </>
  );
}

/** One entry, with its words and its ends from where an outing is decided. */
function Noted(props: { name: (typeof NOTED)[number]; outing: LogOuting; onPut: (value: unknown) => void }) {
  const { name, outing, onPut: put } = props;
  const entry = useList("outing").data?.at(`/${name}`);
  if (!entry) return null;
  const held = outing[name];
  if (entry.quantity)
    return (
      <OwnField
        label={entry.label}
        hint={entry.hint}
        kind={entry.quantity}
        low={entry.least}
        high={entry.most}
        value={entry.nullable ? (held as number | null) : (held as number) || null}
        onValue={(value) => put(value ?? entry.begins)}
      />
    );
  return (
    <OwnText
      label={entry.label}
      hint={entry.hint}
      most={entry.letters}
      value={(held as string | undefined) ?? ""}
      onValue={(text) => put(text || entry.begins)}
    />
  );
}
