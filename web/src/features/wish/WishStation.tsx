import { useState } from "react";
import { useStudy } from "../../asking/live";
import { useWork } from "../../asking/work";
import { Waiting } from "../../kit/chart/Waiting";
import { Working } from "../../kit/chart/Working";
import { useDesign } from "../../kit/document";
import { AddPart, Begin } from "../../kit/ui/Field";
import { Heading, Picture } from "../../kit/ui/Page";
import { Told } from "../../kit/ui/Told";
import { View } from "../../kit/ui/View";
import { Views } from "../../kit/ui/Views";
import { AsSheIs } from "./AsSheIs";
import { FrontView } from "./FrontView";
import type { Chosen } from "./points";
import { WhyView } from "./WhyView";
import { WishBench } from "./WishBench";

const VIEWS = [
  ["front", "Boats that do it"],
  ["why", "This or that"],
  ["now", "As she is"],
] as const;

/** From what one wants to the boat that does it: whole boats, from the cheapest on. */
export default function WishStation() {
  const { design } = useDesign();
  const wished = design.wish != null;
  const asked = wished && (design.wish?.asks ?? []).length > 0;
  const picture = useStudy("wish/picture", {}, asked);
  const refused = picture.data?.refused ?? null;
  const first = useWork("firstwish", [{ name: "", design }], asked && !refused);
  const looked = first.error !== null || (first.data !== undefined && !first.stale);
  const run = useWork("wish", [{ name: "", design }], asked && !refused && looked);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  if (!wished)
    return (
      <>
        <WishBench />
        <Picture>
          <div className="m-auto max-w-[52ch] text-center">
            <h1 className="m-0 mb-2 text-[18px]">What should she do?</h1>
            <p>
              Say a distance at a speed, hours, a night or a stay: on which days, in which months, how surely.
              Whole boats that do it are put together on her hull, from the cheapest on: panels placed and
              wired, a bank, the motor matched. Any of them opens as a variant.
            </p>
            <span className="inline-block">
              <Begin at="/wish" words="state a wish" />
            </span>
          </div>
        </Picture>
      </>
    );
  const front = run.data && !run.stale ? run.data : (first.data ?? run.data);
  const stale = front === run.data ? run.stale : first.stale;
  return (
    <>
      <WishBench />
      <Picture>
        <Views label="Views of the wish" views={VIEWS}>
          {(view) =>
            !asked ? (
              <FirstWish />
            ) : refused ? (
              <p className="m-auto max-w-[52ch] text-center" role="status">
                <Told sentence={refused} />
              </p>
            ) : view === "now" ? (
              <View label="As she is" stale={picture.stale}>
                <Heading title="As she is" in="held against the wish, month by month" />
                {picture.data ? (
                  <AsSheIs picture={picture.data} />
                ) : (
                  <Waiting error={picture.error} retry={picture.retry} what="The wish" />
                )}
              </View>
            ) : !front || (stale && !front.points.length) ? (
              <Working
                run={first.busy ? first : run}
                doing="Boats put together for this wish"
                what="The boats"
              />
            ) : view === "why" ? (
              <WhyView front={front} chosen={chosen} />
            ) : (
              <FrontView
                front={front}
                picture={picture.data ?? undefined}
                stale={stale}
                run={run}
                chosen={chosen}
                onChoose={setChosen}
              />
            )
          }
        </Views>
      </Picture>
    </>
  );
}

/** Nothing is wished yet: what may be, to begin with. */
function FirstWish() {
  const { entries } = useDesign();
  return (
    <div className="m-auto grid max-w-[52ch] justify-items-center gap-1 text-center">
      <h1 className="m-0 mb-1 text-[18px]">What should she do?</h1>
      <p className="m-0 mb-1">One of these to begin with; it can be changed, and others asked beside it.</p>
      {entries.options("/wish/asks/0/kind").map(([kind, label]) => (
        <AddPart key={kind} to="/wish/asks" words={label} like={{ kind }} />
      ))}
    </div>
  );
}
