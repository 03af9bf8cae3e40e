import type { ReactNode } from "react";
import { useDesign } from "../../kit/document";
import { useUnits } from "../../kit/preferences";
import { AddPart, Field, RemovePart } from "../../kit/ui/Field";
import { unitOf } from "../../kit/units";

const WINDS = "/passage/winds";
const SKIES = "/passage/skies";

function Row({
  list,
  id,
  at,
  name,
  children,
}: Record<"list" | "id" | "at" | "name", string> & { children: ReactNode }) {
  return (
    <div className="mb-1 flex flex-wrap items-center gap-1 text-[13px] text-muted [&>[role=alert]]:order-1 [&>[role=alert]]:basis-full">
      <Field bare at={`${at}/from_clock`} label={`${name} from the hour`} width={58} />
      {children}
      <RemovePart from={list} id={id} words={`remove ${name.toLowerCase()}`} cross />
    </div>
  );
}

/** Other winds from an hour on, each in one row. */
export function LaterWinds() {
  const { design } = useDesign();
  const [unit] = unitOf("speed_mps", useUnits());
  return (
    <>
      {(design.passage?.winds ?? []).map((wind, index) => {
        const [at, name] = [`${WINDS}/${index}`, `Wind ${index + 2}`];
        return (
          <Row key={wind.id} list={WINDS} id={wind.id} at={at} name={name}>
            <Field bare at={`${at}/wind_mps`} label={`${name}, ${unit}`} width={52} /> {unit} from
            <Field bare at={`${at}/wind_from_deg`} label={`${name}, from degrees`} width={46} />°
          </Row>
        );
      })}
      <AddPart to={WINDS} words="another wind from an hour on" />
    </>
  );
}

/** Other skies from an hour on, each in one row. */
export function LaterSkies() {
  const { design } = useDesign();
  return (
    <>
      {(design.passage?.skies ?? []).map((sky, index) => {
        const [at, name] = [`${SKIES}/${index}`, `Sky ${index + 2}`];
        return (
          <Row key={sky.id} list={SKIES} id={sky.id} at={at} name={name}>
            <Field bare at={`${at}/sky`} label={name} width={120} />
          </Row>
        );
      })}
      <AddPart to={SKIES} words="another sky from an hour on" />
    </>
  );
}
