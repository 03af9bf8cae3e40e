import { useState } from "react";
import type { ArrayPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";
import { Field } from "../../kit/ui/Field";
import { LinkButton } from "../../kit/ui/LinkButton";
import { clockText } from "../../kit/units";

const TYPED = /^(\d{1,2})[:.h]?(\d{2})?$/;

interface Props {
  picture: ArrayPicture;
  index: number;
  up: number;
  heading: number | null;
  onMove: (index: number) => void;
  onHeading: (degrees: number | null) => void;
}

/** Under the deck: the moment and the heading, both to be typed, and what the array gives then. */
export function DeckReadout({ picture, index, up, heading, onMove, onHeading }: Props) {
  const { design, apply } = useDesign();
  const say = useSay();
  const watts = picture.sun_w[Math.min(Math.round(index), picture.sun_w.length - 1)] ?? 0;
  const swing = design.plan.swing_deg ?? 0;
  const setSwing = (degrees: number) =>
    apply((current) => withValue(current, "/plan/swing_deg", degrees), "swing");
  return (
    <div className="m-0 flex flex-wrap items-center gap-x-3 gap-y-0.5 text-[13px]" data-readout>
      <ClockField
        minutes={picture.clock_min[Math.round(index)] ?? 0}
        clock={picture.clock_min}
        onMove={onMove}
      />
      <span>{up > 0 ? `sun ${Math.round(up)}° up` : "sun down"}</span>
      <span>
        <b>{say("power_w", watts)}</b> from the array
      </span>
      <span className="flex items-center gap-1.5">
        heading
        <Field bare at="/plan/heading_deg" label="Heading in degrees" width={52} />
        {heading === null ? (
          <span className="text-muted">any</span>
        ) : (
          <>
            {swing > 0 ? (
              <>
                swinging ±
                <Field bare at="/plan/swing_deg" width={44} />°
              </>
            ) : (
              <LinkButton onClick={() => setSwing(40)}>let her swing</LinkButton>
            )}
            <LinkButton
              onClick={() => {
                if (swing > 0) setSwing(0);
                else onHeading(null);
              }}
            >
              {swing > 0 ? "no swing" : "any heading"}
            </LinkButton>
          </>
        )}
      </span>
    </div>
  );
}

/** The time of day, typed as 17:00 or 17. */
function ClockField(props: { minutes: number; clock: number[]; onMove: (index: number) => void }) {
  const { minutes, clock, onMove } = props;
  const [text, setText] = useState<string | null>(null);
  const found = TYPED.exec(text?.trim() ?? "");
  const asked = found ? Number(found[1]) * 60 + Number(found[2] ?? 0) : null;
  const wrong = text !== null && (asked === null || asked > 1439 || Number(found?.[2] ?? 0) > 59);
  function settle() {
    if (text !== null && !wrong && asked !== null) {
      const away = clock.map((at) => Math.abs(((at - asked + 2160) % 1440) - 720));
      onMove(away.indexOf(Math.min(...away)));
    }
    if (!wrong) setText(null);
  }
  return (
    <span className="flex items-center gap-1.5">
      <input
        aria-label="Clock time"
        aria-invalid={wrong}
        className="tabular h-[26px] w-[54px] rounded-[5px] border border-edge bg-field px-1.5 text-[14px] font-bold text-ink aria-invalid:border-2 aria-invalid:border-alarm"
        value={text ?? clockText(minutes)}
        onChange={(event) => setText(event.target.value)}
        onBlur={settle}
        onKeyDown={(event) => {
          if (event.key === "Enter") settle();
          else if (event.key === "Escape") setText(null);
        }}
      />
      {wrong && (
        <span role="alert" className="font-semibold text-alarm">
          ▲ a time such as 17:00
        </span>
      )}
    </span>
  );
}
