import type { BoatDesign } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { AddPart, Begin, Field, Fields, RemovePart } from "../../kit/ui/Field";
import { Fold } from "../../kit/ui/Fold";
import { Group, Item } from "../../kit/ui/fields";
import { Bench } from "../../kit/ui/Page";
import { Several } from "../../kit/ui/Several";
import { useFolds } from "../../kit/ui/useFolds";
import { OwnList } from "./OwnList";

type Wish = NonNullable<BoatDesign["wish"]>;
type Ask = NonNullable<Wish["asks"]>[number];
type FoldName = "money" | "places" | "parts" | "shed" | "between";

const OF: Record<NonNullable<Ask["kind"]>, string> = {
  trip: "distance_m speed_mps slowest_mps",
  hours: "hours speed_mps slowest_mps from_clock",
  night: "hours speed_mps slowest_mps",
  stay: "days",
  house: "",
};

/** What is wished, and what binds. */
export function WishBench() {
  const { design, entries } = useDesign();
  const say = useSay();
  const fold = useFolds<FoldName>();
  const wish = design.wish;
  if (!wish) return <Bench of="The wish" />;
  const asks = wish.asks ?? [];
  const words = (at: string, held: readonly string[] | undefined, none: string) =>
    held?.length ? held.map((key) => entries.words(at)[key]?.toLowerCase() ?? key).join(", ") : none;
  return (
    <Bench of="The wish">
      <Group title="She should do">
        {asks.map((ask, index) => (
          <AskItem key={ask.id} ask={ask} at={`/wish/asks/${index}`} alone={asks.length === 1} />
        ))}
        <AddPart to="/wish/asks" words={asks.length ? "and also …" : "a wish"} />
      </Group>
      <Group title="For">
        <Fields at="/wish" of="coins" />
      </Group>
      <Fold
        title="What is there"
        summary={kept(wish).join(", ") || "nothing counts as bought"}
        {...fold("parts")}
      >
        <Fields at="/wish" of="keeps_panels keeps_bank keeps_motor" />
      </Fold>
      <Fold
        title="Panels in the shed"
        summary={
          wish.owned?.length ? `${wish.owned.reduce((sum, own) => sum + (own.count ?? 1), 0)}` : "none"
        }
        {...fold("shed")}
      >
        {(wish.owned ?? []).map((own, index) => (
          <Item key={own.id} title={`Panels ${index + 1}`} quiet>
            <Fields
              at={`/wish/owned/${index}`}
              of="count nameplate_w panel_width_m panel_length_m open_circuit_v best_v mass_kg"
            />
            <Field at={`/wish/owned/${index}/build`} width={130} />
            <RemovePart from="/wish/owned" id={own.id} words="not these" />
          </Item>
        ))}
        <AddPart to="/wish/owned" words="panels that cost nothing" />
      </Fold>
      <Fold
        title="Where panels may go"
        summary={words("/wish/places", wish.places, "wherever she has room")}
        {...fold("places")}
      >
        <Several at="/wish/places" />
        <Several at="/wish/clear" />
        <Fields at="/wish" of="air_draught_m hand_tilted" />
      </Fold>
      <Fold
        title="Weight and parts"
        summary={`${wish.added_kg == null ? "any weight that pays" : `up to ${say("mass_kg", wish.added_kg)}`}, ${words("/wish/builds", wish.builds ?? ["glass", "flexible"], "no panels")}`}
        {...fold("money")}
      >
        <Fields at="/wish" of="extra_kg added_kg stiffness_frac most_boxes" />
        <Several at="/wish/builds" />
        <Several at="/wish/chemistries" />
        <Field at="/wish/other_volts" />
        <OwnList />
      </Fold>
      <Fold
        title="Between outings"
        summary={between(wish, entries.words("/wish/between"))}
        {...fold("between")}
      >
        <Field at="/wish/rest_state" width={140} />
        <Field at="/wish/between" width={170} />
        <Field at="/wish/by" width={140} />
      </Fold>
      <Begin at="/wish" words="" none="forget the wish" />
    </Bench>
  );
}

const between = (wish: Wish, words: Record<string, string>) => words[wish.between ?? "as_used"] ?? "";

const kept = (wish: Wish) =>
  [
    wish.keeps_panels !== false && "panels",
    wish.keeps_bank !== false && "bank",
    wish.keeps_motor !== false && "motor",
  ].filter((word): word is string => Boolean(word));

function AskItem({ ask, at, alone }: { ask: Ask; at: string; alone: boolean }) {
  const kind = ask.kind ?? "trip";
  return (
    <div className="mb-2 border-b border-hairline pb-1.5" data-ask={kind}>
      <Field at={`${at}/kind`} width={170} />
      {OF[kind] && <Fields at={at} of={OF[kind]} />}
      {kind !== "stay" && kind !== "house" && <Several at={`${at}/weekdays`} short={2} />}
      <Field at={`${at}/first_month`} width={118} />
      <Field at={`${at}/last_month`} width={118} />
      <Field at={`${at}/surely_frac`} />
      {kind !== "stay" && kind !== "house" && <Field at={`${at}/kept_frac`} />}
      {!alone && <RemovePart from="/wish/asks" id={ask.id} words="not this" />}
    </div>
  );
}
