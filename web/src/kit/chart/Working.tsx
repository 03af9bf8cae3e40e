import { Progress } from "./Progress";
import { Waiting } from "./Waiting";

interface Props {
  run: { busy: boolean; progress: number; error: Error | null; retry: () => void; stop: () => void };
  doing: string; // while it works
  what: string; // that could not be computed
}

/** Long work that has no answer yet: how far it is, or what went wrong. */
export function Working({ run, doing, what }: Props) {
  if (run.busy || !run.error) return <Progress what={doing} share={run.progress} stop={run.stop} />;
  return <Waiting error={run.error} retry={run.retry} what={what} />;
}
