import { useState } from "react";
import { client, dataOf, type PassagePicture, Refused } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { Problem } from "../../kit/ui/fields";
import { OwnField } from "../../kit/ui/OwnField";

const SIDES = [
  ["latitude, north +", 90],
  ["longitude, east +", 180],
] as const;

/** Where a leg's mark lies: typed, it gives the leg its distance and course; the next one goes on from there. */
export function PositionFields({ picture, leg }: { picture: PassagePicture | undefined; leg: number }) {
  const { design, apply } = useDesign();
  const [wrong, setWrong] = useState("");
  const place = picture?.places[leg];
  if (!place) return null;
  const [latitude, longitude] = place;
  async function lay(latitude_deg: number | null, longitude_deg: number | null) {
    if (latitude_deg === null || longitude_deg === null) return;
    setWrong("");
    try {
      const body = { design, leg, latitude_deg, longitude_deg };
      const aimed = await dataOf(client.POST("/api/passage/aimed", { body }));
      apply(
        (current) =>
          aimed.reduce((boat, one) => {
            const at = `/passage/legs/${one.index}`;
            const long = withValue(boat, `${at}/distance_m`, one.distance_m);
            return withValue(long, `${at}/course_deg`, one.course_deg);
          }, current),
        `place-mark-${leg}`,
      );
    } catch (error) {
      const first = error instanceof Refused ? error.problems[0] : undefined;
      setWrong(first ? `${first.message} Accepted: ${first.accepted}.` : "It could not be laid; try again.");
    }
  }
  return (
    <>
      {SIDES.map(([label, most], side) => (
        <OwnField
          key={label}
          label={`Lies at ${label}`}
          kind="angle_deg"
          low={-most}
          high={most}
          value={place[side]}
          onValue={(value) => (side === 0 ? lay(value, longitude) : lay(latitude, value))}
        />
      ))}
      {wrong && <Problem id={`place-${leg}`} text={wrong} />}
    </>
  );
}
