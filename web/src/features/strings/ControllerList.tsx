import { client, dataOf } from "../../api/client";
import { useList } from "../../asking/lists";
import { useDesign } from "../../kit/document";
import { LinkButton } from "../../kit/ui/LinkButton";
import { ReadFile } from "../../kit/ui/ReadFile";

const MOST_BYTES = 200_000;

/** Puts a controller of the list on the boat: its label's numbers go into the fields below. */
export function ControllerList({ c }: { c: number }) {
  const { design, apply } = useDesign();
  const list = useList("controller-models");
  const models = [...(design.own_controllers ?? []), ...(list.data ?? [])];
  return (
    <label className="mb-1 flex items-center justify-between gap-2">
      From the list
      <select
        className="h-[28px] w-[150px] rounded-[5px] border border-edge bg-field px-1 text-ink"
        value=""
        onChange={(event) => {
          const model = models[Number(event.target.value)];
          if (!model) return;
          apply((current) => {
            const controllers = (current.controllers ?? []).map((box, i) =>
              i === c ? { ...box, ...model } : box,
            );
            return { ...current, controllers };
          }, "controller-model");
        }}
      >
        <option value="">choose …</option>
        {models.map((model, i) => (
          <option key={`${model.name}/${i}`} value={i}>
            {model.name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Reads controllers of one's own from a CSV file, to propose from. */
export function OwnControllers() {
  const { design, apply } = useDesign();
  const own = design.own_controllers ?? [];
  const take = (own_controllers: typeof own) =>
    apply((now) => ({ ...now, own_controllers }), "own-controllers");
  async function read(text: string) {
    const found = await dataOf(client.POST("/api/strings/controllers", { body: { text } }));
    if (found.controllers.length > 0) take(found.controllers);
    return { problems: found.problems };
  }
  return (
    <div className="mb-2 text-[13px]" data-own-controllers>
      <ReadFile
        label="Your own list, a CSV file"
        name="Table of controllers"
        accept=".csv,.txt,text/csv,text/plain"
        mostBytes={MOST_BYTES}
        tooLarge="This file is larger than 200 kB."
        read={read}
      />
      {own.length > 0 && (
        <p className="m-0">
          {own.length} of your own beside the list.{" "}
          <LinkButton onClick={() => take([])}>drop them</LinkButton>
        </p>
      )}
    </div>
  );
}
