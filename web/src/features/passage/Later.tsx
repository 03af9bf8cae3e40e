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

/** A line each, under what its fields are. */
function Rows(props: { of: Columns; children: ReactNode }) {
  const columns = [...props.of.map(([, width]) => `${width}px`), "16px"].join(" ");
  return (
    <div
      className="mb-1 grid items-center gap-1 text-[13px] text-muted"
      style={{ gridTemplateColumns: columns }}
    >
      {props.of.map(([words]) => (
        <span key={words}>{words}</span>
      ))}
      <span />
      {props.children}
    </div>
  );
}

function Row(props: Record<"list" | "id" | "at" | "name", string> & { day: boolean; children: ReactNode }) {
  const { list, id, at, name, day, children } = props;
  return (
    <div className="contents [&>[role=alert]]:order-1 [&>[role=alert]]:col-span-full">
      {day && <Field bare at={`${at}/day`} label={`${name} from the day`} width={30} />}
      <Field bare at={`${at}/from_clock`} label={`${name} from the hour`} width={58} />
      {children}
      <RemovePart from={list} id={id} words={`remove ${name.toLowerCase()}`} cross />
    </div>
  );
}

const DAY = ["day", 30] as const;
const HOUR = ["from", 58] as const;

/** Other winds from an hour on, each in one row, with the waves they bring. */
export function LaterWinds({ overDays }: Days) {
  const { design } = useDesign();
  const units = useUnits();
  const [unit] = unitOf("speed_mps", units);
  const [high] = unitOf("length_m", units);
  const winds = design.passage?.winds ?? [];
  const day = overDays || winds.some((wind) => wind.day !== 1);
  const columns = [HOUR, [unit, 48], ["from °", 44], [`waves, ${high}`, 60]] as const;
  return (
    <>
      {winds.length > 0 && (
        <Rows of={day ? [DAY, ...columns] : columns}>
          {winds.map((wind, index) => {
            const [at, name] = [`${WINDS}/${index}`, `Wind ${index + 2}`];
            return (
              <Row key={wind.id} list={WINDS} id={wind.id} at={at} name={name} day={day}>
                <Field bare at={`${at}/wind_mps`} label={`${name}, ${unit}`} width={48} />
                <Field bare at={`${at}/wind_from_deg`} label={`${name}, from degrees`} width={44} />
                <Field bare at={`${at}/waves_m`} label={`${name}, waves, ${high}`} width={50} />
              </Row>
            );
          })}
        </Rows>
      )}
      <AddPart to={WINDS} words="another wind from an hour on" />
    </>
  );
}

/** Other skies from an hour on, each in one row. */
export function LaterSkies({ overDays }: Days) {
  const { design } = useDesign();
  const skies = design.passage?.skies ?? [];
  const day = overDays || skies.some((sky) => sky.day !== 1);
  const columns = [HOUR, ["sky", 122]] as const;
  return (
    <>
      {skies.length > 0 && (
        <Rows of={day ? [DAY, ...columns] : columns}>
          {skies.map((sky, index) => {
            const [at, name] = [`${SKIES}/${index}`, `Sky ${index + 2}`];
            return (
              <Row key={sky.id} list={SKIES} id={sky.id} at={at} name={name} day={day}>
                <Field bare at={`${at}/sky`} label={name} width={120} />
              </Row>
            );
          })}
        </Rows>
      )}
      <AddPart to={SKIES} words="another sky from an hour on" />
    </>
  );
}
