import type { BankPicture, SizingAsk, Tank } from "../../api/client";
import { BankBought } from "../../boat/BankBought";
import { withHouseBank } from "../../boat/banks";
import { Loads } from "../../boat/Loads";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { RemovePart } from "../../kit/ui/Field";
import { Fold } from "../../kit/ui/Fold";
import { Group } from "../../kit/ui/fields";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Bench } from "../../kit/ui/Page";
import { useFolds } from "../../kit/ui/useFolds";
import { counted } from "../../kit/units";
import { BankDepth, BankLimits, BankPlace } from "./BankFields";
import { Links } from "./Links";
import { SizingFields } from "./SizingFields";

type FoldName = `limits-${number}` | `place-${number}` | "house-bank" | "links" | "loads" | "sizing";

interface Props {
  picture: BankPicture | undefined;
  ask: SizingAsk;
  onAsk: (ask: SizingAsk) => void;
}

/** What the boat stores, and what lives on it. */
export function BankBench({ picture, ask, onAsk }: Props) {
  const { design, apply, entries } = useDesign();
  const fold = useFolds<FoldName>("loads");
  const say = useSay();
  const [main, house] = design.banks ?? [];
  const tank = picture?.tanks[0];
  const own = picture?.tanks[1];
  if (!main)
    return (
      <Bench of="What the boat stores">
        <Group title="Bank">
          <p className="mt-0 mb-1 text-muted">
            Without a bank the panels drive the motor directly: the live sun is all there is.
          </p>
          <button
            type="button"
            className="btn"
            data-main
            onClick={() => apply((now) => entries.withNew(now, "/banks", { series: 2 }), "bank")}
          >
            Add a bank
          </button>
        </Group>
        <Fold title="House" summary={counted((design.loads ?? []).length, "load")} {...fold("loads")}>
          <Loads full />
        </Fold>
      </Bench>
    );
  return (
    <Bench of="What the boat stores">
      <Group title={main.name || "Bank"}>
        <BankBought index={0} />
        {tank && (
          <p className="m-0 mb-1 border-y border-hairline py-1" data-sum>
            <b className="tabular">{say("voltage_v", tank.nominal_v)}</b> ·{" "}
            <b className="tabular">{say("capacity_ah", tank.capacity_ah)}</b> ·{" "}
            <b className="tabular">{say("energy_wh", tank.nominal_wh)}</b>
            <span className="text-[13px] text-muted">
              {" "}
              · {say("mass_kg", tank.mass_kg)}, {say("energy_wh", tank.usable_wh)} usable
            </span>
          </p>
        )}
        <BankDepth index={0} />
      </Group>
      <Fold
        title="House loads"
        summary={picture ? `${say("energy_wh", picture.house_wh)} a day` : ""}
        {...fold("loads")}
      >
        <Loads full />
        {picture && (
          <p className="m-0 mt-1">
            Together <b className="tabular">{say("energy_wh", picture.house_wh)}</b> a day.
          </p>
        )}
      </Fold>
      <BankFolds index={0} tank={tank} titles={["Volts and limits", "Age, mass, place"]} fold={fold} />
      {house ? (
        <>
          <Fold
            title={house.name || "House bank"}
            summary={own ? `${say("voltage_v", own.nominal_v)}, ${say("energy_wh", own.nominal_wh)}` : ""}
            {...fold("house-bank")}
          >
            <BankBought index={1} />
            <BankDepth index={1} />
            <RemovePart from="/banks" id={house.id} words="remove this bank" />
          </Fold>
          <BankFolds
            index={1}
            tank={own}
            titles={["Its volts and limits", "Its age, mass, place"]}
            fold={fold}
          />
          <Fold
            title="Between the banks"
            summary={counted((design.links ?? []).length, "converter")}
            {...fold("links")}
          >
            <Links />
          </Fold>
        </>
      ) : (
        <p className="m-0 border-t border-hairline py-1.5">
          <LinkButton onClick={() => apply((now) => withHouseBank(now, entries), "bank")}>
            give the house a bank of its own
          </LinkButton>
        </p>
      )}
      <Fold title="Sizing" summary="hours, night, grey days" {...fold("sizing")}>
        <SizingFields ask={ask} onAsk={onAsk} planSpeed={design.plan.speed_mps} />
      </Fold>
    </Bench>
  );
}

/** What is asked of a bank less often. */
function BankFolds(props: {
  index: number;
  tank: Tank | undefined;
  titles: [string, string];
  fold: ReturnType<typeof useFolds<FoldName>>;
}) {
  const { index, tank, titles, fold } = props;
  const say = useSay();
  const full = tank ? `full ${say("voltage_v", tank.full_v)}` : "";
  const health = tank ? `health ${say("fraction", tank.health_frac)}` : "";
  return (
    <>
      <Fold title={titles[0]} summary={full} {...fold(`limits-${index}`)}>
        <BankLimits index={index} />
      </Fold>
      <Fold title={titles[1]} summary={health} {...fold(`place-${index}`)}>
        <BankPlace index={index} />
      </Fold>
    </>
  );
}
