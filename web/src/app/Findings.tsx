import type { Finding } from "../api/client";
import { useUnits } from "../kit/preferences";
import { LinkButton } from "../kit/ui/LinkButton";
import { Mark } from "../kit/ui/Mark";
import { Told } from "../kit/ui/Told";
import { WhyPopover } from "../kit/ui/WhyPopover";
import { told, type Units } from "../kit/units";

const FEW = 5; // open at once, what turns the answer first; cautions of harm always stand

/** What the station tells: short sentences with a number and an action, each with its reasoning. */
export function Findings(props: { title: string; findings: Finding[] | undefined; stale: boolean }) {
  const { title, findings, stale } = props;
  const units = useUnits();
  const others = (findings ?? []).filter((finding) => !finding.caution);
  const [open, folded] = [others.slice(0, FEW), others.slice(FEW)];
  const cautions = (findings ?? []).filter((finding) => finding.caution);
  const one = (finding: Finding) => <One key={finding.id} finding={finding} units={units} />;
  return (
    <aside className="findings border-l border-hairline px-4 py-5" aria-label={title}>
      <h2 className="m-0 mb-3 text-[13.5px] font-bold text-muted">{title}</h2>
      {!findings && <p className="text-muted">Working it out …</p>}
      <div className={`transition-opacity ${stale ? "opacity-60" : ""}`}>
        <ul className="m-0 list-none p-0">{open.map(one)}</ul>
        {folded.length > 0 && (
          <details className="mb-3.5">
            <summary className="link cursor-pointer">{folded.length} more</summary>
            <ul className="m-0 mt-3 list-none p-0">{folded.map(one)}</ul>
          </details>
        )}
        <ul className="m-0 list-none p-0">{cautions.map(one)}</ul>
      </div>
    </aside>
  );
}

function One({ finding, units }: { finding: Finding; units: Units }) {
  const title = told(finding.title, units);
  return (
    <li className={`mb-3.5 flex gap-2.5 ${finding.caution ? "border-t border-hairline pt-3" : ""}`}>
      <Mark level={finding.level} />
      <div>
        <h3 className="m-0 text-[14.5px] leading-snug font-bold">
          <Told sentence={finding.title} />
        </h3>
        <p className="m-0 text-muted">
          <Told sentence={finding.detail} />{" "}
          <WhyPopover title={title} why={finding.why}>
            <LinkButton className="text-[13px]" aria-label={`Why: ${title}`}>
              why
            </LinkButton>
          </WhyPopover>
        </p>
      </div>
    </li>
  );
}
