import { Tabs } from "radix-ui";
import type { FitoutPicture } from "../../api/client";

export type View = FitoutPicture["progress"][number]["key"];

const NAMES: Record<View, string> = {
  parts: "Parts",
  frames: "Frames",
  connecting: "Connecting",
  sun: "First sun",
  tests: "Bench tests",
  before: "Before the first trip",
};

/** What has to be done, and how far each of it is. */
export function Sections(props: {
  progress: FitoutPicture["progress"] | undefined;
  next: string | null;
  steps: FitoutPicture["steps"];
}) {
  const { progress, next, steps } = props;
  const number = steps.find((step) => step.key === next)?.number;
  const words = (key: View, done: number, of: number) => {
    if (key === "parts") return `${done} of ${of} aboard`;
    if (key === "frames") return of === 0 ? "none needed" : `${done} of ${of} counted`;
    if (key === "connecting") return number === undefined ? "all proved" : `step ${number} of ${of}`;
    if (key === "sun") return of === 0 ? "no panels" : `${done} of ${of} proven`;
    if (key === "tests") return of === 0 ? "none yet" : done === of ? `${of} done` : `${done} of ${of} done`;
    return `${done} of ${of}`;
  };
  return (
    <Tabs.List aria-label="The fit-out" className="mb-3 flex flex-col gap-0.5">
      {(Object.keys(NAMES) as View[]).map((key) => {
        const found = progress?.find((item) => item.key === key);
        const whole = found?.of ?? 0;
        return (
          <Tabs.Trigger key={key} value={key} className="section-tab">
            <span className="flex w-full items-baseline justify-between gap-2">
              <b>{NAMES[key]}</b>
              <span className="text-[13px] text-muted">{found ? words(key, found.done, whole) : ""}</span>
            </span>
            <progress
              className="section-bar"
              max={Math.max(whole, 1)}
              value={found?.done ?? 0}
              aria-hidden="true"
            />
          </Tabs.Trigger>
        );
      })}
    </Tabs.List>
  );
}
