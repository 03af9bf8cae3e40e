import type { LogNow } from "../../api/client";
import { useSay } from "../../kit/preferences";

const BAR = 150;
const TANK = { width: 132, height: 190 };

/** The sun over the waterline, the water and the house under it, the bank beside. */
export function NowBars({ now }: { now: LogNow }) {
  const say = useSay();
  const whole = Math.max((now.sun_w ?? 0) + (now.out_w ?? 0), 1);
  const part = (watts: number | null | undefined) => ((watts ?? 0) / whole) * BAR;
  const level = TANK.height - (now.soc ?? 0) * TANK.height;
  const reserve = TANK.height - (now.reserve ?? 0) * TANK.height;
  return (
    <div className="flex flex-wrap items-center gap-8">
      <div className="min-w-[230px]">
        <p className="m-0 text-[14.5px] font-bold text-sun-text">
          from the sun{now.sun_read ? "" : now.sun_w == null ? "" : ", by the model"}
        </p>
        <p className="m-0 text-[64px] leading-none font-bold tabular" data-sun>
          {now.sun_w == null ? "–" : say("power_w", now.sun_w)}
        </p>
        <hr className="my-1 border-0 border-t-[3px] border-ink" />
        <p className="m-0 text-[64px] leading-none font-bold tabular" data-out>
          {now.out_w == null ? "–" : say("power_w", now.out_w)}
        </p>
        <p className="m-0 text-[14.5px] font-bold text-water">
          into water {now.motor_w == null ? "–" : say("power_w", now.motor_w)}, house{" "}
          {now.house_w == null ? "–" : say("power_w", now.house_w)}
        </p>
      </div>
      <svg width="22" height={BAR} role="img" aria-label="In over out">
        <rect width="22" height={part(now.sun_w)} fill="var(--sun)" stroke="var(--sun-edge)" />
        <rect y={part(now.sun_w)} width="22" height={part(now.motor_w)} fill="var(--water)" />
        <rect
          y={part((now.sun_w ?? 0) + (now.motor_w ?? 0))}
          width="22"
          height={part(now.house_w)}
          fill="var(--house)"
        />
        <path d={`M0 ${part(now.sun_w)}H22`} className="stroke-ink stroke-2" />
      </svg>
      {now.soc != null && (
        <svg width={TANK.width} height={TANK.height} role="img" aria-label="In the bank">
          <rect
            x="1.5"
            y="1.5"
            width={TANK.width - 3}
            height={TANK.height - 3}
            rx="9"
            className="fill-field stroke-ink stroke-2"
          />
          <rect
            x="3"
            y={level}
            width={TANK.width - 6}
            height={Math.max(TANK.height - level - 3, 0)}
            fill="var(--bank-soft)"
          />
          <path d={`M3 ${level}H${TANK.width - 3}`} className="stroke-bank stroke-[2.5]" />
          {now.reserve != null && (
            <path
              d={`M3 ${reserve}H${TANK.width - 3}`}
              className="fill-none stroke-alarm stroke-[1.6] [stroke-dasharray:4_4]"
            />
          )}
          <text
            x={TANK.width / 2}
            y="62"
            textAnchor="middle"
            className="fill-ink text-[44px] font-bold"
            data-soc
          >
            {say("fraction", now.soc)}
          </text>
          <text x={TANK.width / 2} y="84" textAnchor="middle" className="fill-ink text-[14px]">
            in the bank
          </text>
          <text x={TANK.width / 2} y={TANK.height - 14} textAnchor="middle" className="fill-ink text-[13px]">
            {now.reserve != null && `reserve ${say("fraction", now.reserve)}`}
          </text>
        </svg>
      )}
    </div>
  );
}
