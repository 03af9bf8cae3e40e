import type { ArrayAdvice, ArrayPicture } from "../../api/client";
import { withGroup, withPlaceOf } from "../../boat/panels";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { Fields } from "../../kit/ui/Field";
import { Fold } from "../../kit/ui/Fold";
import { Group } from "../../kit/ui/fields";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Bench } from "../../kit/ui/Page";
import { Pick } from "../../kit/ui/Pick";
import { useFolds } from "../../kit/ui/useFolds";

import { PanelFields } from "./PanelFields";
import { AroundFields, StandsFields, WhereFields } from "./PlaceFields";
import { SkylineFields } from "./SkylineFields";
import { ThingFields } from "./ThingFields";

interface Props {
  picture: ArrayPicture | undefined;
  advice: ArrayAdvice | undefined;
  chosen: string | null;
  onChoose: (id: string) => void;
}

type FoldName = "panels" | "where" | "stands" | "around" | "things" | "shore";

/** Places, the panels on them, and what stands in the sun. */
export function ArrayBench({ picture, advice, chosen, onChoose }: Props) {
  const { design, apply, entries } = useDesign();
  const fold = useFolds<FoldName>("panels");
  const say = useSay();
  const places = design.places ?? [];
  const at = places.findIndex((place) => place.id === chosen);
  const index = at >= 0 ? at : 0;
  const place = places[index];
  const drawn = picture?.places.find((item) => item.id === place?.id);
  const groups = (design.panels ?? [])
    .map((group, g) => ({ group, g }))
    .filter((item) => item.group.place_id === place?.id);
  const state = design.plan.state ?? "under_way";
  const standing = place?.stands?.[state];
  return (
    <Bench of="Places, panels and what shades them">
      <Group title="Places on this boat">
        {places.length === 0 && (
          <p className="mt-0 mb-1 text-muted">
            No panels yet. A place is anything that can carry some: a canopy, a rail, a rack ashore.
          </p>
        )}
        {places.map((item) => (
          <PlaceButton
            key={item.id}
            name={item.name}
            at={item.at?.z_m ?? null}
            chosen={item.id === place?.id}
            drawn={picture?.places.find((one) => one.id === item.id)}
            id={item.id}
            onChoose={onChoose}
          />
        ))}
        <p className="m-0 flex justify-between gap-2">
          <LinkButton onClick={() => apply((d) => withPlaceOf(d, entries), "place")}>add a place</LinkButton>
          {picture && picture.nameplate_w > 0 && (
            <span className="tabular text-[13px] text-muted" data-total>
              all {say("power_w", picture.nameplate_w)}
            </span>
          )}
        </p>
        {places.length > 0 && <WholeSet advice={advice} />}
      </Group>
      {place && (
        <>
          <Fold
            title="Panels on it"
            summary={drawn ? `${drawn.panels} of ${say("power_w", drawn.nameplate_w)}` : ""}
            {...fold("panels")}
          >
            {groups.map(({ group, g }) => (
              <PanelFields key={group.id} g={g} several={groups.length > 1} drawn={drawn} />
            ))}
            <LinkButton onClick={() => apply((d) => withGroup(d, entries, place.id), "panels")}>
              {groups.length ? "add another kind" : "put panels here"}
            </LinkButton>
          </Fold>
          <Fold
            title="Where it is"
            summary={place.at ? `${say("length_m", place.at.z_m)} up` : "not known"}
            {...fold("where")}
          >
            <WhereFields index={index} place={place} />
          </Fold>
          <Fold
            title="How it stands"
            summary={
              standing && standing.how !== "set"
                ? (entries.words("/places/0/stands/dock/how")[standing.how ?? "set"] ?? "")
                : place.tilt_most_deg != null
                  ? (entries.words("/places/0/tended")[place.tended ?? "left"] ?? "")
                  : "fixed"
            }
            {...fold("stands")}
          >
            <StandsFields index={index} place={place} />
          </Fold>
          <Fold
            title="Under and around it"
            summary={place.clear_m ? `${say("length_m", place.clear_m)} kept clear` : ""}
            {...fold("around")}
          >
            <AroundFields index={index} />
          </Fold>
        </>
      )}
      <Fold
        title="Standing in the sun"
        summary={(design.obstacles ?? []).map((thing) => thing.name).join(", ")}
        {...fold("things")}
      >
        <ThingFields advice={advice} />
      </Fold>
      <Fold
        title="The shore about her"
        summary={(design.site.skyline ?? []).map((part) => part.name).join(", ") || "open"}
        {...fold("shore")}
      >
        <SkylineFields />
      </Fold>
    </Bench>
  );
}

/** An advertised total to check, and which set is looked at where planned and built differ. */
function WholeSet({ advice }: { advice: ArrayAdvice | undefined }) {
  const { design } = useDesign();
  const say = useSay();
  const differ = (design.panels ?? []).some((group) => group.belongs && group.belongs !== "both");
  return (
    <details className="mt-1" open={differ || design.claimed_w != null}>
      <summary className="link cursor-pointer text-[13px]">the whole set</summary>
      <Fields at="" of="claimed_w panel_set" />
      {(advice?.sets.length ?? 0) > 0 && (
        <table className="plain-table text-[13px]" data-sets>
          <tbody>
            {advice?.sets.map((set) => (
              <tr key={set.panel_set}>
                <td>as {set.panel_set}</td>
                <td>{say("power_w", set.nameplate_w)}</td>
                <td>{say("mass_kg", set.mass_kg)}</td>
                <td>
                  <b>{say("energy_wh", set.day_wh)}</b>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </details>
  );
}

function PlaceButton(props: {
  id: string;
  name: string;
  at: number | null;
  chosen: boolean;
  drawn: ArrayPicture["places"][number] | undefined;
  onChoose: (id: string) => void;
}) {
  const { id, name, at, chosen, drawn, onChoose } = props;
  const say = useSay();
  const hidden = drawn && (drawn.how === "folded" || drawn.how === "covered" || drawn.how === "gone");
  return (
    <Pick
      chosen={chosen}
      title={name}
      right={drawn && say("power_w", drawn.nameplate_w)}
      data-place={id}
      onClick={() => onChoose(id)}
      below={
        <span className="block text-[13px] text-muted">
          {hidden
            ? drawn.how
            : drawn && drawn.tilt_deg > 0
              ? `tilted ${Math.round(drawn.tilt_deg)}°`
              : "flat"}
          {at !== null ? `, ${say("length_m", at)} up` : ", no position"}
          {drawn ? ` · ${drawn.panels} ${drawn.panels === 1 ? "panel" : "panels"}` : ""}
        </span>
      }
    />
  );
}
