import { useRef, useState } from "react";
import { client, dataOf, Refused } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { Problem } from "../../kit/ui/fields";
import { LinkButton } from "../../kit/ui/LinkButton";
import { told } from "../../kit/units";

const MOST_BYTES = 8_000_000;

/** The legs of a GPX file in the place of those that stand here; undo brings them back. */
export function RouteFile() {
  const { apply } = useDesign();
  const units = useUnits();
  const file = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState("");
  const [wrong, setWrong] = useState("");
  async function read(text: string) {
    setSaid("");
    setWrong("");
    try {
      const route = await dataOf(client.POST("/api/passage/route", { body: { text } }));
      apply((current) => {
        if (!current.passage) return current;
        const { begins_at, begins_latitude_deg, begins_longitude_deg, legs } = route;
        return {
          ...current,
          passage: {
            ...current.passage,
            begins_at,
            begins_latitude_deg,
            begins_longitude_deg,
            legs,
            now: null,
          },
        };
      }, "route-file");
      setSaid(
        [`${route.legs.length} legs are read.`, ...route.told.map((line) => told(line, units))].join(" "),
      );
    } catch (error) {
      const first = error instanceof Refused ? error.problems[0] : undefined;
      setWrong(
        first ? `${first.message} Accepted: ${first.accepted}.` : "The file could not be read; try again.",
      );
    }
  }
  return (
    <div>
      <input
        ref={file}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label="Route file, GPX"
        accept=".gpx,application/gpx+xml,text/xml"
        onChange={async (event) => {
          const chosen = event.target.files?.[0];
          event.target.value = "";
          if (chosen && chosen.size > MOST_BYTES) setWrong("This file is larger than 8 MB.");
          else if (chosen) await read(await chosen.text());
        }}
      />
      <LinkButton onClick={() => file.current?.click()}>legs from a file</LinkButton>
      {said && (
        <p role="status" className="m-0 text-[13px] text-muted">
          {said}
        </p>
      )}
      {wrong && <Problem id="route-file" text={wrong} />}
    </div>
  );
}
