import type { BoatDesign, DayPicture } from "../../api/client";
import { STATES } from "../../boat/words";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { ChoiceField, NumberField, TextField } from "../../kit/ui/fields";

type Stay = NonNullable<BoatDesign["plan"]["stays"]>[number];

const pastMidnight = (stretch: { starts_at: string; ends_at: string }) => stretch.ends_at < stretch.starts_at;

/** From one clock time to another, in one row; what more there is to say of it comes under it. */
function Stretch(props: {
  pointer: string;
  name: string;
  stretch: { starts_at: string; ends_at: string };
  onRemove: () => void;
  children?: React.ReactNode;
}) {
  const { pointer, name, stretch, onRemove, children } = props;
  return (
    <div className="mb-1 flex flex-wrap items-center gap-1.5">
      <TextField bare pointer={`${pointer}/starts_at`} label={`${name} from`} type="clock" width={58} />
      <span>to</span>
      <TextField bare pointer={`${pointer}/ends_at`} label={`${name} to`} type="clock" width={58} />
      {pastMidnight(stretch) && <span className="text-[13px] text-muted">next day</span>}
      {children}
      <button type="button" className="cross" aria-label={`Remove ${name.toLowerCase()}`} onClick={onRemove}>
        ×
      </button>
    </div>
  );
}

/** Motoring hours, each at its own speed where that is given. */
export function Spells({ picture }: { picture: DayPicture | undefined }) {
  const { design, apply } = useDesign();
  const own = design.plan.spells;
  const spells = own ?? picture?.spells ?? [];
  const set = (next: unknown) => apply((current) => withValue(current, "/plan/spells", next), "spells");
  return (
    <div className="mt-2">
      <h3 className="m-0 mb-1 text-[14px] font-normal">Motoring hours</h3>
      {!own && (
        <p className="m-0 mb-1 text-[13px] text-muted">
          {spells.length
            ? `The useful sun, ${spells.map((item) => `${item.starts_at.slice(0, 5)} to ${item.ends_at.slice(0, 5)}`).join(", ")}.`
            : "No useful sun on this day."}
        </p>
      )}
      {own?.map((spell, index) => (
        <Stretch
          key={`${index}-${own.length}`}
          pointer={`/plan/spells/${index}`}
          name={`Spell ${index + 1}`}
          stretch={spell}
          onRemove={() => set(own.length > 1 ? own.filter((_, i) => i !== index) : null)}
        >
          <span className="flex items-center gap-1 text-[13px] text-muted">
            at
            <NumberField
              bare
              pointer={`/plan/spells/${index}/speed_mps`}
              label=""
              name={`Spell ${index + 1}, speed; empty: the plan's`}
              kind="speed_mps"
              usual={design.plan.speed_mps}
              width={46}
              step={0.1}
            />
          </span>
        </Stretch>
      ))}
      <div className="flex gap-4">
        {own ? (
          <button type="button" className="link" onClick={() => set(null)}>
            use the useful sun
          </button>
        ) : (
          <button
            type="button"
            className="link"
            onClick={() => set(spells.length ? spells : [{ starts_at: "10:00:00", ends_at: "16:00:00" }])}
          >
            set my own
          </button>
        )}
        {own && own.length < 8 && (
          <button
            type="button"
            className="link"
            onClick={() => set([...own, { starts_at: "20:00:00", ends_at: "21:00:00" }])}
          >
            add hours
          </button>
        )}
      </div>
    </div>
  );
}

/** Hours in which she lies otherwise than the plan says: folded wings under way, spread at anchor. */
export function Stays() {
  const { design, apply } = useDesign();
  const stays = design.plan.stays ?? [];
  const set = (next: Stay[]) => apply((current) => withValue(current, "/plan/stays", next), "stays");
  return (
    <div className="mt-2">
      {stays.map((stay, index) => (
        <Stretch
          key={`${index}-${stays.length}`}
          pointer={`/plan/stays/${index}`}
          name={`Stay ${index + 1}`}
          stretch={stay}
          onRemove={() => set(stays.filter((_, i) => i !== index))}
        >
          <ChoiceField
            bare
            pointer={`/plan/stays/${index}/state`}
            label={`Stay ${index + 1}, she is`}
            options={STATES}
            width={96}
          />
        </Stretch>
      ))}
      {stays.length < 6 && (
        <button
          type="button"
          className="link"
          onClick={() =>
            set([...stays, { starts_at: "18:00:00", ends_at: "09:00:00", state: "anchored" } as Stay])
          }
        >
          {stays.length ? "another stay" : "at other hours she lies elsewhere"}
        </button>
      )}
    </div>
  );
}
