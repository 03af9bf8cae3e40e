import { useId, useState } from "react";
import {
  client,
  dataOf,
  type FitoutPicture,
  type PartLine,
  type Priced,
  type RecordOf,
} from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { newId, useNoted, useRecords } from "../../kit/records";
import { useToast } from "../../kit/Toast";
import { Field } from "../../kit/ui/Field";
import { FileField } from "../../kit/ui/FileField";
import { Fold } from "../../kit/ui/Fold";
import { LinkButton } from "../../kit/ui/LinkButton";
import { OwnField, OwnText } from "../../kit/ui/OwnField";
import { SaveAs } from "../../kit/ui/SaveAs";

type Note = RecordOf<"part">;
const STATES = [
  ["have", "aboard"],
  ["ordered", "on order"],
  ["to_buy", "to buy"],
] as const;

const linesOf = (picture: FitoutPicture) => [
  ...picture.systems.flatMap((system) => system.lines),
  ...picture.gone,
];

/** The note of a line as it stands, or a new one. */
const noteOf = (line: PartLine): Note => ({
  kind: "part",
  id: line.note_id ?? newId(),
  part: line.key,
  name: line.name.slice(0, 80),
  system: line.own ? line.system : null,
  state: line.state,
  quantity: line.bought ?? line.quantity,
  price: line.price_at || line.guessed ? null : line.price,
  mass_kg: null,
  used: line.used,
  due: line.due,
  note: line.note,
  link: line.link,
});

/** What is noted of one part of the list. */
export function PartFields(props: {
  picture: FitoutPicture;
  chosen: string | null;
  onChoose: (key: string | null) => void;
}) {
  const { picture, chosen, onChoose } = props;
  const { note, withdraw } = useRecords();
  const toast = useToast();
  const say = useSay();
  const used = useId();
  const line = linesOf(picture).find((one) => one.key === chosen);
  const held = useNoted("part", (one) => one.part === chosen);
  const put = (change: Partial<Note>) => line && note({ ...(held ?? noteOf(line)), ...change });
  const add = () => {
    const key = `own/${newId().slice(0, 8)}`;
    note({
      kind: "part",
      id: newId(),
      part: key,
      name: "A part of my own",
      system: "safety",
      state: "to_buy",
      quantity: 1,
      price: null,
      mass_kg: null,
      used: false,
      due: null,
      note: "",
      link: "",
    });
    onChoose(key);
  };
  if (!line)
    return (
      <section aria-label="A part" className="border-t border-hairline pt-2">
        <p className="m-0 mb-2 text-muted">
          Choose a line to say whether it is there, what it cost and weighs.
        </p>
        <LinkButton onClick={add}>add a part</LinkButton>
      </section>
    );
  return (
    <section aria-label={line.name} className="border-t border-hairline pt-2" data-part={line.key}>
      <h2 className="m-0 mb-1 text-[14.5px] font-bold">{line.name}</h2>
      {line.why && <p className="m-0 mb-1 text-[13px] text-muted">{line.why}</p>}
      <div role="radiogroup" aria-label="It is" className="mb-2 flex gap-1.5">
        {STATES.map(([state, words]) => (
          <button
            key={state}
            type="button"
            role="radio"
            aria-checked={(held?.state ?? line.state) === state}
            className="state-choice"
            onClick={() =>
              put(
                state === "to_buy" || line.own
                  ? { state }
                  : { state, quantity: held?.state === "to_buy" || !held ? line.quantity : held.quantity },
              )
            }
          >
            {words}
          </button>
        ))}
      </div>
      {line.own && (
        <OwnText
          label="Called"
          value={line.name}
          onValue={(name) => name.trim() && put({ name: name.trim() })}
        />
      )}
      {line.own && (
        <SystemChoice value={line.system} onValue={(system) => put({ system })} picture={picture} />
      )}
      <OwnField
        label={line.own ? "How many" : "Bought"}
        kind="count"
        unit={line.unit}
        low={0}
        high={100000}
        usual={line.quantity}
        value={line.own ? line.quantity : line.state === "to_buy" ? null : line.bought}
        onValue={(quantity) =>
          put(
            line.own || line.state !== "to_buy"
              ? { quantity: quantity ?? line.quantity }
              : { quantity: quantity ?? line.quantity, state: "ordered" },
          )
        }
      />
      {line.price_at ? (
        <Field at={line.price_at} label="Price, each" />
      ) : (
        <OwnField
          label="Price, each"
          kind="money"
          low={0}
          high={10_000_000}
          usual={line.guessed ? line.price : null}
          value={held?.price}
          onValue={(price) => put({ price })}
        />
      )}
      {line.mass_at ? (
        <Field at={line.mass_at} label="Mass, each" />
      ) : (
        <OwnField
          label="Mass, each"
          kind="mass_kg"
          low={0}
          high={100_000}
          usual={held?.mass_kg == null ? line.each_kg : null}
          value={held?.mass_kg}
          onValue={(mass_kg) => put({ mass_kg })}
        />
      )}
      <div className="flex min-h-[30px] items-center justify-between">
        <label htmlFor={used}>Used</label>
        <input
          id={used}
          type="checkbox"
          checked={held?.used ?? false}
          onChange={(event) => put({ used: event.target.checked })}
        />
      </div>
      {line.state === "ordered" && (
        <OwnText
          label="Due"
          type="date"
          width={136}
          value={line.due ?? ""}
          onValue={(due) => put({ due: due || null })}
        />
      )}
      <OwnText label="Note" value={line.note} most={400} onValue={(text) => put({ note: text })} />
      <OwnText label="Link" value={line.link} most={400} onValue={(link) => put({ link })} />
      {line.mass_at && (
        <p className="m-0 text-[13px] text-muted">Weighed, its mass counts in the boat's at once.</p>
      )}
      <p className="m-0 mt-1 flex flex-wrap gap-4 text-[13px]">
        {held && (
          <LinkButton
            onClick={() => {
              withdraw(held.id);
              if (line.own) onChoose(null);
              toast({
                text: `${line.name}: the note is taken away.`,
                action: { label: "put it back", run: () => note(held) },
              });
            }}
          >
            {line.own ? "remove this line" : "take the note away"}
          </LinkButton>
        )}
        <LinkButton onClick={add}>add a part</LinkButton>
        <LinkButton onClick={() => onChoose(null)}>done</LinkButton>
      </p>
      {line.guessed && line.price != null && (
        <p className="m-0 mt-1 text-[13px] text-muted">
          {say("money", line.price)} is a usual price, of invented coins: write what it costs where you are.
        </p>
      )}
    </section>
  );
}

function SystemChoice(props: {
  value: PartLine["system"];
  onValue: (system: PartLine["system"]) => void;
  picture: FitoutPicture;
}) {
  const id = useId();
  const names: [PartLine["system"], string][] = [
    ["hull", "Hull"],
    ["drive", "Drive"],
    ["bank", "Bank"],
    ["panels", "Panels and frames"],
    ["controllers", "Controllers"],
    ["wiring", "Wiring and protection"],
    ["safety", "House and safety"],
  ];
  return (
    <div className="flex min-h-[30px] items-center justify-between">
      <label htmlFor={id}>Belongs to</label>
      <select
        id={id}
        className="h-[28px] rounded-[5px] border border-edge bg-field px-1 text-ink"
        value={props.value}
        onChange={(event) => props.onValue(event.target.value as PartLine["system"])}
      >
        {names.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}

/** Currency, budget, a price list of one's own, and all records as a file. */
export function MoneyFields({ picture }: { picture: FitoutPicture }) {
  const { variant, design } = useDesign();
  const { records, note, reload, problem } = useRecords();
  const say = useSay();
  const [open, setOpen] = useState(false);
  const [files, setFiles] = useState(false);
  const [told, setTold] = useState<string | null>(null);
  const [priced, setPriced] = useState<Priced | null>(null);
  const { money } = picture;
  const held = useNoted("money", () => true);
  const put = (change: Partial<RecordOf<"money">>) =>
    note({ kind: "money", id: "money", currency: "coins", budget: null, ...held, ...change });
  const prices = async (text: string) => {
    try {
      setPriced(await dataOf(client.POST("/api/fitout/prices", { body: { design, records, text } })));
      setTold(null);
    } catch (error) {
      setTold((error as Error).message);
    }
  };
  const take = () => {
    for (const one of priced?.notes ?? [])
      note({ ...one, id: one.id.startsWith("part-") ? newId() : one.id });
    setPriced(null);
  };
  const bring = async (text: string) => {
    const reply = await fetch(`/api/boats/${variant.boat_id}/records/file`, { method: "POST", body: text });
    if (reply.ok) {
      setTold("The records are in.");
      reload();
    } else
      setTold(
        ((await reply.json().catch(() => null)) as { errors?: { message: string }[] } | null)?.errors
          ?.map((one) => one.message)
          .join(" ") ?? "The server did not answer.",
      );
  };
  return (
    <>
      <Fold
        title="Money"
        summary={`in ${money.currency}${money.budget == null ? "" : `, budget ${say("money", money.budget)}`}`}
        open={open}
        onOpen={setOpen}
      >
        <OwnText
          label="Currency"
          width={84}
          most={8}
          value={money.currency}
          onValue={(text) => put({ currency: text.trim() || "coins" })}
        />
        <OwnField
          label="Budget"
          kind="money"
          low={0}
          high={100_000_000}
          value={money.budget}
          onValue={(budget) => put({ budget })}
        />
        <FileField
          label="Prices from a CSV"
          name="A price list as CSV"
          accept=".csv,text/csv,text/plain"
          mostBytes={2_000_000}
          onTooLarge={() => setTold("A price list of 2 MB or less.")}
          onText={(text) => void prices(text)}
        />
        {priced && (
          <div className="mt-1 text-[13px]" role="status">
            <p className="m-0">
              {priced.notes.length} of {priced.notes.length + priced.without.length} rows name a part of this
              list.
              {priced.without.length > 0 &&
                ` Not: ${priced.without.slice(0, 4).join(", ")}${priced.without.length > 4 ? " …" : ""}.`}
            </p>
            {priced.problems.slice(0, 4).map((one) => (
              <p key={one.line} className="m-0 text-alarm">
                ▲ Row {one.line}: {one.message}
              </p>
            ))}
            <p className="m-0 flex gap-4">
              {priced.notes.length > 0 && <LinkButton onClick={take}>take these prices</LinkButton>}
              <LinkButton onClick={() => setPriced(null)}>leave them</LinkButton>
            </p>
          </div>
        )}
      </Fold>
      <Fold title="Records" summary={`${records.records?.length ?? 0} noted`} open={files} onOpen={setFiles}>
        <p className="m-0 text-[13px]">
          <a className="link" href={`/api/boats/${variant.boat_id}/records/file`} download>
            save all records (JSON)
          </a>{" "}
          <SaveAs url="/api/fitout/records.csv" file="records.csv" asked={{ records }}>
            as a table (CSV)
          </SaveAs>
        </p>
        <FileField
          label="Records from a file"
          name="A records file"
          accept=".json,application/json"
          mostBytes={8_000_000}
          onTooLarge={() => setTold("A records file of 8 MB or less.")}
          onText={(text) => void bring(text)}
        />
      </Fold>
      {(told ?? problem) && (
        <p role="alert" className="m-0 text-[13px] font-semibold text-alarm">
          ▲ {told ?? problem}
        </p>
      )}
    </>
  );
}
