import { Popover } from "radix-ui";
import type { ReactNode } from "react";
import type { Sentence, Why } from "../../api/client";
import { useUnits } from "../preferences";
import { shown } from "../units";
import { Told } from "./Told";

interface Props {
  title: string;
  why: Why;
  assumes?: Sentence;
  reason?: Sentence | null;
  mend?: ReactNode; // the way to where the reason is mended
  children: ReactNode;
}

/** The reasoning behind a number: what it assumes, its inputs, the method by name, its source and its band. */
export function WhyPopover({ title, why, assumes, reason, mend, children }: Props) {
  const units = useUnits();
  return (
    <Popover.Root>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="sheet z-30 w-[360px] max-w-[94vw] p-4"
          sideOffset={6}
          collisionPadding={10}
          aria-label={`Why: ${title}`}
        >
          <h3 className="m-0 mb-2 text-[15px] font-bold">{title}</h3>
          {reason && (
            <p className="mt-0 mb-2 font-semibold">
              <Told sentence={reason} /> {mend}
            </p>
          )}
          {assumes && (
            <p className="mt-0 mb-2 text-muted">
              Assumes <Told sentence={assumes} />.
            </p>
          )}
          {why.band && (
            <p className="mt-0 mb-2">
              Band: <Told sentence={why.band} />.
            </p>
          )}
          {(why.inputs ?? []).length > 0 && (
            <dl className="m-0 mb-2 grid grid-cols-[1fr_auto] gap-x-4 border-y border-hairline py-2">
              {(why.inputs ?? []).map((fact) => (
                <div key={fact.label} className="contents">
                  <dt className="text-muted">{fact.label}</dt>
                  <dd className="tabular m-0 text-right font-semibold">{shown(fact.value, units)}</dd>
                </div>
              ))}
            </dl>
          )}
          <p className="m-0 mb-1">
            <span className="text-muted">Method </span>
            {why.method}
          </p>
          <p className="m-0 text-[13px] text-muted">
            {why.source}
            {why.doc && ` More in docs/methods/${why.doc}.md.`}
          </p>
          <Popover.Arrow className="fill-edge" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
