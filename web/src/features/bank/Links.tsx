import { withLink, withoutLink } from "../../boat/banks";
import { useDesign } from "../../kit/document";
import { ChoiceField, NumberField } from "../../kit/ui/fields";

const CARRIES = [
  ["needs", "what the other lacks"],
  ["surplus", "only spare sun"],
] as const;

/** Converters between the two banks, and which bank each controller charges. */
export function Links() {
  const { design, apply } = useDesign();
  const [main, house] = design.banks ?? [];
  if (!main || !house) return null;
  const named = (id: string) => (design.banks ?? []).find((bank) => bank.id === id)?.name ?? id;
  return (
    <>
      {(design.links ?? []).map((link, index) => (
        <fieldset
          key={link.id}
          className="m-0 mb-1.5 border-0 border-b border-solid border-hairline p-0 pb-1"
        >
          <legend className="text-[13px] font-bold">
            {named(link.from_bank_id)} → {named(link.to_bank_id)}
          </legend>
          <NumberField
            pointer={`/links/${index}/limit_w`}
            label="Most it delivers"
            kind="power_w"
            step={20}
          />
          <NumberField
            pointer={`/links/${index}/efficiency`}
            label="Its efficiency"
            kind="fraction"
            step={1}
          />
          <ChoiceField pointer={`/links/${index}/carries`} label="Carries" options={CARRIES} width={160} />
          <button
            type="button"
            className="link"
            onClick={() => apply((current) => withoutLink(current, link.id), "links")}
          >
            remove this converter
          </button>
        </fieldset>
      ))}
      <p className="m-0 flex flex-wrap gap-x-4">
        <button
          type="button"
          className="link"
          onClick={() => apply((current) => withLink(current, main.id, house.id), "links")}
        >
          converter to the house
        </button>
        <button
          type="button"
          className="link"
          onClick={() => apply((current) => withLink(current, house.id, main.id), "links")}
        >
          converter back
        </button>
      </p>
      {(design.controllers ?? []).map((controller, index) => (
        <ChoiceField
          key={controller.id}
          pointer={`/controllers/${index}/bank_id`}
          label={`${controller.name} charges`}
          width={120}
          options={[
            ["null", main.name ?? "the first"] as const,
            [house.id, house.name ?? "the second"] as const,
          ]}
          write={(current, value) => ({
            ...current,
            controllers: (current.controllers ?? []).map((item, i) =>
              i === index ? { ...item, bank_id: value === "null" ? null : value } : item,
            ),
          })}
        />
      ))}
    </>
  );
}
