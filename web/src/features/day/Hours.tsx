import type { DayPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { valueAt, withValue } from "../../kit/pointer";
import { Field } from "../../kit/ui/Field";
import { LinkButton } from "../../kit/ui/LinkButton";

const SPELLS = "/plan/spells";
const STAYS = "/plan/stays";

/** From one clock time to another, in one row; what more there is to say of it comes under it. */
function Stretch(props: { at: string; name: string; onRemove: () => void; children: React.ReactNode }) {
  const { at, name, onRemove, children } = props;
  const { design } = useDesign();
  const stretch = valueAt(design, at) as { starts_at: string; ends_at: string };
  return (
    <div className="mb-1 flex flex-wrap items-center gap-1.5">
      <Field bare at={`${at}/starts_at`} label={`${name} from`} width={58} />
      <span>to</span>
      <Field bare at={`${at}/ends_at`} label={`${name} to`} width={58} />
      {stretch.ends_at < stretch.starts_at && <span className="text-[13px] text-muted">next day</span>}
      {children}
      <button type="button" className="cross" aria-label={`Remove ${name.toLowerCase()}`} onClick={onRemove}>
        ×
      </button>
    </div>
  );
}

/** Motoring hours, each at its own speed where that is given. */
export function Spells({ picture }: { picture: DayPicture | undefined }) {
  const { design, apply, entries } = useDesign();
  const own = design.plan.spells;
  const spells = own ?? picture?.spells ?? [];
  const set = (next: unknown) => apply((current) => withValue(current, SPELLS, next), "spells");
  const first = () => (spells.length ? spells : [entries.begun(`${SPELLS}/0`)]);
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
      {own?.length === 0 && <p className="m-0 mb-1 text-[13px] text-muted">A day at rest: no motoring.</p>}
      {own?.map((spell, index) => (
        <Stretch
          key={`${index}-${own.length}`}
          at={`${SPELLS}/${index}`}
          name={`Spell ${index + 1}`}
          onRemove={() => set(own.filter((item) => item !== spell))}
        >
          <span className="flex items-center gap-1 text-[13px] text-muted">
            at <Field bare at={`${SPELLS}/${index}/speed_mps`} width={46} />
          </span>
        </Stretch>
      ))}
      <div className="flex flex-wrap gap-x-4">
        {own ? (
          <LinkButton onClick={() => set(null)}>use the useful sun</LinkButton>
        ) : (
          <LinkButton onClick={() => set(first())}>set my own</LinkButton>
        )}
        {own && entries.hasRoom(design, SPELLS) && (
          <LinkButton
            onClick={() => apply((now) => entries.withNew(now, SPELLS, { starts_at: "20:00:00" }), "spells")}
          >
            add hours
          </LinkButton>
        )}
        {spells.length > 0 && <LinkButton onClick={() => set([])}>at rest</LinkButton>}
      </div>
    </div>
  );
}

/** Hours in which she lies otherwise than the plan says: folded wings under way, spread at anchor. */
export function Stays() {
  const { design, apply, entries } = useDesign();
  const stays = design.plan.stays ?? [];
  const set = (next: unknown) => apply((current) => withValue(current, STAYS, next), "stays");
  return (
    <div className="mt-2">
      {stays.map((stay, index) => (
        <Stretch
          key={`${index}-${stays.length}`}
          at={`${STAYS}/${index}`}
          name={`Stay ${index + 1}`}
          onRemove={() => set(stays.filter((item) => item !== stay))}
        >
          <Field bare at={`${STAYS}/${index}/state`} width={116} />
        </Stretch>
      ))}
      {entries.hasRoom(design, STAYS) && (
        <LinkButton onClick={() => apply((now) => entries.withNew(now, STAYS), "stays")}>
          {stays.length ? "another stay" : "at other hours she lies elsewhere"}
        </LinkButton>
      )}
    </div>
  );
}
