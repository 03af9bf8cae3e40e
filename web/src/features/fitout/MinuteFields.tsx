import { useId } from "react";
import type { FitoutPicture } from "../../api/client";
import { LinkButton } from "../../kit/ui/LinkButton";
import { OwnField, OwnText } from "../../kit/ui/OwnField";
import { clockOf, dayOf, type Minute } from "./minute";
import { useSigner } from "./signer";

const SHADOWS = ["sharp", "soft", "faint", "none"] as const;

/** When the meter is read, and under what sky. */
export function MinuteFields(props: {
  minute: FitoutPicture["minute"];
  onMinute: (part: Partial<Minute>) => void;
  wiping: boolean;
  signing: boolean;
}) {
  const { minute, onMinute, wiping, signing } = props;
  const [signer, setSigner] = useSigner();
  const wipe = useId();
  const day = dayOf(minute.at);
  const clock = clockOf(minute.at);
  return (
    <section aria-label="What the meter should say" className="border-t border-hairline pt-2">
      <h2 className="m-0 mb-1 text-[13.5px] font-bold text-muted">The shadow of your hand</h2>
      <div role="radiogroup" aria-label="The shadow of your hand" className="mb-2 grid grid-cols-4 gap-1.5">
        {SHADOWS.map((shadow) => (
          <button
            key={shadow}
            type="button"
            role="radio"
            aria-checked={minute.shadow === shadow}
            className="shadow-choice"
            onClick={() => onMinute({ shadow })}
          >
            <svg width="34" height="18" aria-hidden="true">
              <Shade of={shadow} />
            </svg>
            {shadow}
          </button>
        ))}
      </div>
      <OwnText
        label="Day"
        type="date"
        width={136}
        value={day}
        onValue={(text) => text && onMinute({ at: `${text}T${clock}` })}
      />
      <OwnText
        label="Clock of the boat"
        width={68}
        most={5}
        hint="Hours and minutes where she lies, such as 12:10"
        value={clock}
        onValue={(text) => {
          const found = /^(\d{1,2})[:.h ]?(\d{2})$/.exec(text.trim());
          if (!found || Number(found[1]) > 23 || Number(found[2]) > 59) return;
          onMinute({ at: `${day}T${(found[1] ?? "").padStart(2, "0")}:${found[2]}` });
        }}
      />
      <p className="m-0 mb-1 text-right text-[13px]">
        <LinkButton onClick={() => onMinute({ at: new Date().toISOString() })}>this minute</LinkButton>
      </p>
      <OwnField
        label="Heading"
        kind="angle_deg"
        low={0}
        high={360}
        value={minute.heading_deg}
        onValue={(heading_deg) => onMinute({ heading_deg })}
      />
      <OwnField
        label="Air"
        kind="temperature_c"
        low={-50}
        high={60}
        hint="Empty: usual for the place and day"
        usual={minute.air_c}
        value={minute.air_given ? minute.air_c : null}
        onValue={(air_c) => onMinute({ air_c })}
      />
      {wiping && (
        <div className="flex min-h-[30px] items-center justify-between">
          <label htmlFor={wipe}>Panels wiped</label>
          <input
            id={wipe}
            type="checkbox"
            checked={minute.wiped}
            onChange={(event) => onMinute({ wiped: event.target.checked })}
          />
        </div>
      )}
      {signing && (
        <OwnText
          label="Proved by"
          value={signer}
          onValue={setSigner}
          hint="Stands with the date beside every step that is proved"
        />
      )}
    </section>
  );
}

/** How such a shadow looks. */
function Shade({ of }: { of: (typeof SHADOWS)[number] }) {
  if (of === "none") return <line x1={5} x2={29} y1={9} y2={9} stroke="var(--muted)" strokeDasharray="3 3" />;
  const rings =
    of === "sharp"
      ? [[12, 6, 1]]
      : [
          [14, 7.5, 0.25],
          [11.5, 6, 0.3],
          [9, 4.5, of === "soft" ? 0.8 : 0.15],
        ];
  return rings.map(([rx, ry, opacity]) => (
    <ellipse
      key={rx}
      cx={17}
      cy={9}
      rx={rx}
      ry={ry}
      fill="var(--ink)"
      opacity={of === "faint" ? 0.22 : opacity}
    />
  ));
}
