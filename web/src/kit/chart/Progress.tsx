import { LinkButton } from "../../kit/ui/LinkButton";
import { shown, USUAL_UNITS } from "../units";

/** How far long work is, and a way to end it. */
export function Progress({ what, share, stop }: { what: string; share: number; stop: () => void }) {
  const said = shown({ quantity: "fraction", value: share, signed: false }, USUAL_UNITS);
  return (
    <div className="m-auto grid w-[280px] gap-2 p-4" data-progress>
      <span className="flex justify-between text-[14px]">
        <span>{what} …</span>
        <span className="tabular">{said}</span>
      </span>
      <progress className="h-[8px] w-full accent-[var(--water)]" max={1} value={share} aria-label={what} />
      <LinkButton className="justify-self-end text-[13px]" onClick={stop}>
        stop
      </LinkButton>
    </div>
  );
}
