import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, dataOf, type LogOuting, refusalIn } from "../../api/client";
import { useLogbook } from "../../kit/logbook";
import { useToast } from "../../kit/Toast";
import { Alarm } from "../../kit/ui/Alarm";
import { FileField } from "../../kit/ui/FileField";
import { LinkButton } from "../../kit/ui/LinkButton";

const MOST_BYTES = 8_000_000;

/** Pictures of what broke: small, kept beside the database. */
export function Pictures({ outing }: { outing: LogOuting }) {
  const { boatId } = useLogbook();
  const queries = useQueryClient();
  const toast = useToast();
  const [wrong, setWrong] = useState("");
  const [sending, setSending] = useState(false);
  const path = { params: { path: { boat_id: boatId, key: outing.id } } };
  const queryKey = ["pictures", boatId, outing.id];
  const { data: shown = [] } = useQuery({
    queryKey,
    queryFn: () => dataOf(client.GET("/api/boats/{boat_id}/logbook/outings/{key}/pictures", path)),
  });
  const again = () => queries.invalidateQueries({ queryKey });
  const at = (key: string) => `/api/boats/${boatId}/logbook/pictures/${key}`;

  async function add(file: File) {
    setWrong("");
    setSending(true);
    try {
      const to = `/api/boats/${boatId}/logbook/outings/${outing.id}/pictures`;
      const reply = await fetch(to, { method: "POST", body: file });
      const [problem] = reply.ok ? [] : (await refusalIn(reply)).problems;
      if (problem) setWrong(`${problem.message} Wanted: ${problem.accepted ?? "another one"}.`);
      await again();
    } catch {
      setWrong("The server did not answer; the picture is still on your device. Try again.");
    } finally {
      setSending(false);
    }
  }

  async function remove(key: string) {
    const one = { params: { path: { boat_id: boatId, key } } };
    await client.DELETE("/api/boats/{boat_id}/logbook/pictures/{key}", one);
    await again();
    const back = async () => {
      await client.PUT("/api/boats/{boat_id}/logbook/pictures/{key}", one);
      await again();
    };
    toast({ text: "The picture is removed.", action: { label: "put it back", run: () => void back() } });
  }

  return (
    <div className="mt-1" data-pictures={shown.length}>
      {shown.length > 0 && (
        <ul className="m-0 mb-1 flex list-none flex-wrap gap-2 p-0">
          {shown.map((picture, k) => (
            <li key={picture.key} className="text-[12.5px]">
              <a href={at(picture.key)} target="_blank" rel="noreferrer">
                <img
                  src={at(picture.key)}
                  alt={`What broke, ${k + 1} of ${shown.length}`}
                  className="block h-[62px] w-[78px] border border-edge object-cover"
                />
              </a>
              <LinkButton onClick={() => void remove(picture.key)} aria-label={`Remove picture ${k + 1}`}>
                remove
              </LinkButton>
            </li>
          ))}
        </ul>
      )}
      <FileField
        label={sending ? "sending …" : "a picture of what broke"}
        name="A picture of what broke"
        accept="image/jpeg,image/png,image/webp,image/gif"
        mostBytes={MOST_BYTES}
        onFile={(file) => void add(file)}
        onTooLarge={() => setWrong("This file is larger than 8 MB; a smaller picture will do.")}
      />
      {wrong && <Alarm>{wrong}</Alarm>}
    </div>
  );
}
