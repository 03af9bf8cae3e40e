import type { SizingAsk } from "../../api/client";
import { AskField } from "../../kit/ui/AskField";

interface Props {
  ask: SizingAsk;
  onAsk: (ask: SizingAsk) => void;
  planSpeed: number;
}

/** What is wanted of a bank: asked of the sizing, never part of the boat. */
export function SizingFields({ ask, onAsk, planSpeed }: Props) {
  return (
    <>
      <AskField
        label="Hours under way"
        kind="duration_h"
        value={ask.hours ?? 3}
        low={0.1}
        high={71}
        onValue={(hours) => onAsk({ ...ask, hours })}
      />
      <AskField
        label="At a speed of"
        kind="speed_mps"
        value={ask.speed_mps ?? planSpeed}
        low={0.1}
        high={20}
        onValue={(speed_mps) => onAsk({ ...ask, speed_mps })}
      />
      <AskField
        label="Grey days at anchor"
        kind="count"
        value={ask.grey_days ?? 3}
        low={1}
        high={30}
        onValue={(days) => onAsk({ ...ask, grey_days: Math.round(days) })}
      />
    </>
  );
}
