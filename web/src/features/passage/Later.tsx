import type { ReactNode } from "react";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { AddPart, Field, RemovePart } from "../../kit/ui/Field";
import { unitOf } from "../../kit/units";

const WINDS = "/passage/winds";
const SKIES = "/passage/skies";

interface Days {
  overDays?: boolean; // the passage goes on over midnight
}

type Columns = readonly (readonly [words: string, width: number])[];

const across = (columns: Columns) => ({
  gridTemplateColumns: [...columns.map(([, width]) => `${width}px`), "14px"].join(" "),
});
const LINE = "mb-1 grid items-center gap-x-1 text-[13px] text-muted";

/** What stands under each other in the rows. */
function Heads({ of }: { of: Columns }) {
  return (
    <div className={LINE} style={across(of)}>
      {of.map(([words]) => (
        <span key={words}>{words}</span>
      ))}
    </div>
  );
}

/** One line; what is wrong in it stands under it. */
function Row(
  props: Record<"list" | "id" | "at" | "name", string> & { of: Columns; day: boolean; children: ReactNode },
) {
  const { list, id, at, name, of, day, children } = props;
  return (
    <div className={`${LINE} [&>[role=alert]]:order-1 [&>[role=alert]]:col-span-full`} style={across(of)}>
      {day && <Field bare at={`${at}/day`} label={`${name} from the day`} width={28} />}
      <Field bare at={`${at}/from_clock`} label={`${name} from the hour`} width={52} />
      {children}
      <RemovePart from={list} id={id} words={`remove ${name.toLowerCase()}`} cross />
    </div>
  );
}

const DAY = ["day", 28] as const;
const HOUR = ["from", 52] as const;

/** Other winds from an hour on, each in one row, with the waves they bring. */
export function LaterWinds({ overDays }: Days) {
  const { design } = useDesign();
  const units = useUnits();
  const [unit] = unitOf("speed_mps", units);
  const [high] = unitOf("length_m", units);
  const winds = design.passage?.winds ?? [];
  const day = overDays || winds.some((wind) => wind.day !== 1);
  const columns: Columns = [...(day ? [DAY] : []), HOUR, [unit, 44], ["from °", 44], [`sea, ${high}`, 46]];
  return (
    <>
      {winds.length > 0 && <Heads of={columns} />}
      {winds.map((wind, index) => {
        const [at, name] = [`${WINDS}/${index}`, `Wind ${index + 2}`];
        return (
          <Row key={wind.id} list={WINDS} id={wind.id} at={at} name={name} of={columns} day={day}>
            <Field bare at={`${at}/wind_mps`} label={`${name}, ${unit}`} width={44} />
            <Field bare at={`${at}/wind_from_deg`} label={`${name}, from degrees`} width={44} />
            <Field bare at={`${at}/waves_m`} label={`${name}, waves, ${high}`} width={46} />
          </Row>
        );
      })}
      <AddPart to={WINDS} words="another wind from an hour on" />
    </>
  );
}

/** Other skies from an hour on, each in one row. */
export function LaterSkies({ overDays }: Days) {
  const { design } = useDesign();
  const skies = design.passage?.skies ?? [];
  const day = overDays || skies.some((sky) => sky.day !== 1);
  const columns: Columns = [...(day ? [DAY] : []), HOUR, ["sky", 122]];
  return (
    <>
      {skies.length > 0 && <Heads of={columns} />}
      {skies.map((sky, index) => {
        const [at, name] = [`${SKIES}/${index}`, `Sky ${index + 2}`];
        return (
          <Row key={sky.id} list={SKIES} id={sky.id} at={at} name={name} of={columns} day={day}>
            <Field bare at={`${at}/sky`} label={name} width={120} />
          </Row>
        );
      })}
      <AddPart to={SKIES} words="another sky from an hour on" />
    </>
  );
}
