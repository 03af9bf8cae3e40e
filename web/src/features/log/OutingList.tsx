import { useState } from "react";
import { client, type LogOuting, type LogPicture, problemsIn } from "../../api/client";
import { useStudy } from "../../asking/live";
import { newOuting, useLogbook } from "../../kit/logbook";
import { useSay } from "../../kit/preferences";
import { newId } from "../../kit/records";
import { keepBlob } from "../../kit/saveFile";
import { Fold } from "../../kit/ui/Fold";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Pick } from "../../kit/ui/Pick";
import { SaveAs } from "../../kit/ui/SaveAs";
import { useFolds } from "../../kit/ui/useFolds";
import { counted } from "../../kit/units";
import { BroughtFile } from "./BroughtFile";
import { DevicesFold } from "./DevicesFold";
import { OutingFields } from "./OutingFields";

interface Props {
  picture: LogPicture;
  chosen: string;
  onChoose: (id: string) => void;
}

/** Outings, newest first, each with the watts at speed against the model's. */
export function OutingList({ picture, onChoose }: Props) {
  const { noteOuting, waiting, problem } = useLogbook();
  const say = useSay();
  const folds = useFolds<"outing" | "devices" | "files">();
  const { outings, day } = picture;
  const { data: season } = useStudy("log/season");
  const hull = new Map(season?.scores.map((score) => [score.outing_id, score.hull]));
  const { passage } = picture;
  const begin = (planned: Partial<LogOuting> = {}) => {
    const id = newId();
    noteOuting({ ...newOuting(id, new Date().toISOString()), ...planned });
    onChoose(id);
  };
  return (
    <>
      <div className="mb-1 flex items-baseline justify-between">
        <h2 className="m-0 text-[13.5px] font-bold text-muted">Outings</h2>
        {outings.length > 0 && (
          <span className="text-[12.5px] text-muted">watts at speed, against the model</span>
        )}
      </div>
      <div
        className="max-h-[40vh] overflow-y-auto max-[720px]:max-h-[30vh]"
        tabIndex={0}
        role="region"
        aria-label="Outings"
      >
        {outings.map((line) => (
          <Pick
            key={line.outing.id}
            chosen={line.opened}
            ref={line.opened ? intoView : undefined}
            title={dateOf(line.outing.began_at)}
            right={say("distance_m", line.way_m)}
            onClick={() => onChoose(line.outing.id)}
            below={
              <span className="flex items-center justify-between gap-2 text-[13px] text-muted">
                <span className="truncate">
                  {[line.skies.join(", "), counted(line.readings, "reading")].filter(Boolean).join(" · ")}
                </span>
                <Against ratio={hull.get(line.outing.id) ?? null} />
              </span>
            }
          />
        ))}
      </div>
      <div className="my-1.5 flex flex-wrap gap-x-4">
        <LinkButton onClick={() => begin()}>begin an outing</LinkButton>
        {passage && (
          <LinkButton onClick={() => begin({ name: passage.name, planned_m: passage.distance_m })}>
            begin the passage, {say("distance_m", passage.distance_m)}
          </LinkButton>
        )}
      </div>
      {waiting > 0 && (
        <p className="m-0 mb-1 text-[13px]" role="status">
          {counted(waiting, "change")} kept here until the server answers.
        </p>
      )}
      {problem && (
        <p className="m-0 mb-1 text-[13px] font-semibold text-alarm" role="alert">
          {problem}
        </p>
      )}
      {day && (
        <Fold title="This outing" summary={day.outing.name ?? ""} {...folds("outing")}>
          <OutingFields key={day.outing.id} outing={day.outing} />
        </Fold>
      )}
      <Fold title="Devices" summary="what sends by itself" {...folds("devices")}>
        <DevicesFold inputs={picture.inputs} kept={picture.kept} />
      </Fold>
      <Fold
        title="Files in and out"
        summary={`${counted(outings.length, "outing")}, ${say("distance_m", picture.way_m)}`}
        {...folds("files")}
      >
        <BroughtFile day={day ?? null} onBrought={onChoose} />
        <LogFiles />
      </Fold>
    </>
  );
}

const intoView = (button: HTMLButtonElement | null) => button?.scrollIntoView({ block: "nearest" });

/** A mark on a short line: the middle is the model, right of it takes more. */
function Against({ ratio }: { ratio: number | null }) {
  if (ratio === null) return null;
  const x = Math.min(Math.max((ratio - 0.7) * 100, 3), 57);
  return (
    <svg width="60" height="12" role="img" aria-label={`${Math.round(ratio * 100)} % of the model's watts`}>
      <path d="M0 6H60" className="stroke-edge" />
      <path d="M30 1V11" className="stroke-ink stroke-2" />
      <circle cx={x} cy="6" r="3.6" className="fill-mist stroke-water stroke-2" />
    </svg>
  );
}

const dateOf = (at: string) =>
  new Date(`${at.slice(0, 10)}T12:00:00Z`).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "long",
    timeZone: "UTC",
  });

const PAPERS = [
  ["season.pdf", "the season on paper (PDF)"],
  ["outings.csv", "outings (CSV)"],
  ["readings.csv", "readings (CSV)"],
] as const;

/** The logbook as one open file, out and in. */
function LogFiles() {
  const { boatId, reload } = useLogbook();
  const [told, setTold] = useState<string | null>(null);
  const path = { params: { path: { boat_id: boatId } } };
  async function save() {
    const reply = await client.GET("/api/boats/{boat_id}/logbook/file", { ...path, parseAs: "blob" });
    if (reply.data) keepBlob(reply.data as unknown as Blob, "boat.logbook.json");
  }
  async function bring(file: File) {
    const reply = await fetch(`/api/boats/${boatId}/logbook/file`, { method: "POST", body: file });
    if (reply.ok) {
      setTold(`${file.name} is in.`);
      return reload();
    }
    const [problem] = problemsIn(await reply.json().catch(() => null));
    setTold(problem ? `${problem.message} ${problem.accepted ?? ""}` : "It could not be read.");
  }
  return (
    <div className="grid gap-1 text-[13.5px]">
      <LinkButton className="justify-self-start" onClick={() => void save()}>
        save the logbook (JSON)
      </LinkButton>
      {PAPERS.map(([name, words]) => (
        <div key={name}>
          <SaveAs url={`/api/boats/${boatId}/logbook/papers/${name}`} file={name}>
            {words}
          </SaveAs>
        </div>
      ))}
      <label className="flex flex-col gap-0.5">
        bring a logbook
        <input
          type="file"
          accept=".json,application/json"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void bring(file);
            event.target.value = "";
          }}
        />
      </label>
      {told && (
        <p className="m-0" role="status">
          {told}
        </p>
      )}
    </div>
  );
}
