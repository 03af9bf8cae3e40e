import { type ReactNode, useEffect, useRef } from "react";
import { NavLink, useLocation, useParams } from "react-router";
import { counted } from "../kit/units";
import { Logo } from "./Logo";
import { STATIONS } from "./stations";

/** The stations in the order of the work, as marks on a course. */
export function CourseLine(props: { warnings: Record<string, number>; children: ReactNode }) {
  const { warnings, children } = props;
  const { station, variantId } = useParams();
  const { search } = useLocation();
  const line = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another station is another place on the line
  useEffect(() => {
    line.current?.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [station]);
  return (
    <header className="course flex items-center gap-6 max-[1100px]:gap-3 border-b border-hairline px-5">
      <div className="flex items-center gap-3">
        <Logo width={46} />
        <span className="text-[20px] font-bold">Parhelion</span>
      </div>
      <nav ref={line} aria-label="Stations" className="flex min-w-0 flex-1 justify-center">
        <ol className="m-0 flex min-w-0 list-none items-start p-0">
          {STATIONS.map(({ key, label }, index) => (
            <li
              key={key}
              className="relative flex w-[80px] min-w-[54px] justify-center max-[720px]:w-[58px] max-[720px]:flex-none"
            >
              {index > 0 && (
                <span
                  aria-hidden="true"
                  className="absolute top-[12px] right-1/2 mr-4 w-[calc(100%-32px)] border-t-2 border-muted"
                />
              )}
              <NavLink
                to={{ pathname: `/${key}/${variantId}`, search }}
                className="flex min-w-[52px] flex-col items-center rounded px-0 text-ink no-underline"
              >
                <StationMark here={station === key} warnings={warnings[key] ?? 0} />
                <span className={station === key ? "font-bold" : "text-muted"}>{label}</span>
                {(warnings[key] ?? 0) > 0 && (
                  <span className="sr-only">, {counted(warnings[key] ?? 0, "open warning")}</span>
                )}
              </NavLink>
            </li>
          ))}
        </ol>
      </nav>
      {children}
    </header>
  );
}

function StationMark({ here, warnings }: { here: boolean; warnings: number }) {
  return (
    <svg width="44" height="25" viewBox="0 0 44 25" aria-hidden="true">
      {here && (
        <>
          <circle cx="6" cy="12.5" r="2.2" fill="var(--dog)" />
          <circle cx="38" cy="12.5" r="2.2" fill="var(--dog)" />
        </>
      )}
      {warnings > 0 ? (
        <>
          <path
            d="M22 2 33 21.5H11Z"
            fill={here ? "var(--sun)" : "var(--mist)"}
            strokeLinejoin="round"
            className="stroke-alarm stroke-2"
          />
          <text
            x="22"
            y="19"
            textAnchor="middle"
            fill={here ? "#12262b" : "var(--alarm)"}
            className="font-bold text-[12.5px]"
          >
            {warnings}
          </text>
        </>
      ) : (
        <circle
          cx="22"
          cy="12.5"
          r={here ? 8 : 6}
          fill={here ? "var(--sun)" : "var(--ink)"}
          className="stroke-ink stroke-[1.5]"
        />
      )}
    </svg>
  );
}
