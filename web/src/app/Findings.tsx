import type { Finding } from "../api/client";
import { useUnits } from "../kit/preferences";
import { LinkButton } from "../kit/ui/LinkButton";
import { Mark } from "../kit/ui/Mark";
import { Told } from "../kit/ui/Told";
import { WhyPopover } from "../kit/ui/WhyPopover";
import { told } from "../kit/units";

/** What the station tells: short sentences with a number and an action, each with its reasoning. */
export function Findings(props: { title: string; findings: Finding[] | undefined; stale: boolean }) {
  const { title, findings, stale } = props;
  const units = useUnits();
  return (
    <aside className="findings border-l border-hairline px-4 py-5" aria-label={title}>
      <h2 className="m-0 mb-3 text-[13.5px] font-bold text-muted">{title}</h2>
      {!findings && <p className="text-muted">Working it out …</p>}
      <ul className={`m-0 list-none p-0 transition-opacity ${stale ? "opacity-60" : ""}`}>
        {findings?.map((finding) => (
          <li
            key={finding.id}
            className={`mb-3.5 flex gap-2.5 ${finding.caution ? "border-t border-hairline pt-3" : ""}`}
          >
            <Mark level={finding.level} />
            <div>
              <h3 className="m-0 text-[14.5px] leading-snug font-bold">
                <Told sentence={finding.title} />
              </h3>
              <p className="m-0 text-muted">
                <Told sentence={finding.detail} />{" "}
                <WhyPopover title={told(finding.title, units)} why={finding.why}>
                  <LinkButton className="text-[13px]" aria-label={`Why: ${told(finding.title, units)}`}>
                    why
                  </LinkButton>
                </WhyPopover>
              </p>
            </div>
          </li>
        ))}
      </ul>
    </aside>
  );
}
