import { useDesign } from "../../kit/document";
import { AddPart, Field, Fields, RemovePart } from "../../kit/ui/Field";
import { Item } from "../../kit/ui/fields";

/** Converters between the two banks, and which bank each controller charges. */
export function Links() {
  const { design } = useDesign();
  const [main, house] = design.banks ?? [];
  if (!main || !house) return null;
  const named = (id: string) => (design.banks ?? []).find((bank) => bank.id === id)?.name ?? id;
  return (
    <>
      {(design.links ?? []).map((link, index) => (
        <Item key={link.id} title={`${named(link.from_bank_id)} → ${named(link.to_bank_id)}`}>
          <Fields at={`/links/${index}`} of="limit_w efficiency carries" />
          <RemovePart from="/links" id={link.id} words="remove this converter" />
        </Item>
      ))}
      <p className="m-0 flex flex-wrap gap-x-4">
        <AddPart
          to="/links"
          like={{ from_bank_id: main.id, to_bank_id: house.id }}
          words="converter to the house"
        />
        <AddPart to="/links" like={{ from_bank_id: house.id, to_bank_id: main.id }} words="converter back" />
      </p>
      {(design.controllers ?? []).map((controller, index) => (
        <Field
          key={controller.id}
          at={`/controllers/${index}/bank_id`}
          label={`${controller.name} charges`}
          width={120}
        />
      ))}
    </>
  );
}
