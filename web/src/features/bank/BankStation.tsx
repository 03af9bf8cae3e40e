import { useState } from "react";
import type { SizingAsk } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { Heading, Picture } from "../../kit/ui/Page";
import { BankBench } from "./BankBench";
import { HabitsLine, SizesTable, SpeedsTable } from "./BankTables";
import { TankChart } from "./TankChart";

/** What the boat stores: the tank, what is drawn from it, and how large it would have to be. */
export default function BankStation() {
  const [ask, setAsk] = useState<SizingAsk>({ hours: 3, speed_mps: null, grey_days: 3 });
  const { data: picture, stale, error, retry } = useStudy("bank/picture", { ask });
  return (
    <>
      <BankBench picture={picture} ask={ask} onAsk={setAsk} />
      <Picture scrolls>
        <Heading title="The tank" in="what is in it, what a day takes out, and where the voltmeter stands" />
        {picture && picture.tanks.length === 0 && (
          <p className="m-auto max-w-[44ch] text-center text-muted">
            No bank aboard: nothing is kept, and a cloud stops the boat. Add one on the left to see how much
            it holds and how far it carries.
          </p>
        )}
        {picture && picture.tanks.length > 0 && (
          <div className={`transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}>
            <TankChart picture={picture} />
            <div className="mt-2 grid grid-cols-[minmax(0,1fr)_196px] gap-x-6 max-[720px]:grid-cols-1">
              <SizesTable picture={picture} />
              <SpeedsTable picture={picture} />
            </div>
            <HabitsLine picture={picture} />
          </div>
        )}
        {!picture && <Waiting error={error} retry={retry} what="The tank" />}
      </Picture>
    </>
  );
}
