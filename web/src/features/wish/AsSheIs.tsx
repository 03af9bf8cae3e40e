import type { WishPicture } from "../../api/client";
import { useSay } from "../../kit/preferences";
import { Told } from "../../kit/ui/Told";
import { Head } from "../../kit/ui/View";
import { DeckSketch } from "./DeckSketch";

const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** The boat as she is against the wish: how surely, month by month. */
export function AsSheIs({ picture }: { picture: WishPicture }) {
  const say = useSay();
  return (
    <div className="grid grid-cols-[220px_1fr] gap-5 max-[720px]:grid-cols-1">
      <div className="h-[340px]">
        <DeckSketch picture={picture} deck={picture.panels} label="The deck as it is, bow up" />
      </div>
      <div>
        {picture.reaches && (
          <p className="m-0 mb-2">
            <Told sentence={picture.reaches} />
          </p>
        )}
        {picture.nothing && (
          <p className="m-0 mb-2" data-nothing>
            <Told sentence={picture.nothing} />
          </p>
        )}
        {picture.met.map((ask) => (
          <table key={ask.id} className="plain-table mb-3 max-w-[560px]" data-met={ask.met}>
            <caption className="text-left font-bold">
              <Told sentence={ask.label} />: {say("fraction", ask.surely_frac)} of {ask.days} days drawn,{" "}
              {say("fraction", ask.wanted_frac)} wished
            </caption>
            <Head of={["month", "of its days", ""]} />
            <tbody>
              {ask.months.map((month) => (
                <tr key={month.month}>
                  <td>{MONTHS[month.month - 1]}</td>
                  <td>{say("fraction", month.frac)}</td>
                  <td>
                    <svg width="180" height="14" aria-hidden="true">
                      <rect width="180" height="14" fill="none" stroke="var(--hairline)" />
                      <rect width={180 * month.frac} height="14" fill="var(--water)" />
                    </svg>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        ))}
      </div>
    </div>
  );
}
