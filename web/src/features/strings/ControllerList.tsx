import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { FileField } from "../../kit/ui/FileField";
import { LinkButton } from "../../kit/ui/LinkButton";

const MOST_BYTES = 200_000;

/** Puts a controller of the list on the boat: its label's numbers go into the fields below. */
export function ControllerList({ c }: { c: number }) {
  const { design, apply } = useDesign();
  const list = useQuery({
    queryKey: ["controller-models"],
    queryFn: () => dataOf(client.GET("/api/strings/controller-models")),
    staleTime: Number.POSITIVE_INFINITY,
  });
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
  const [told, setTold] = useState<{ read: number; wrong: string[] } | null>(null);
  const own = design.own_controllers ?? [];
  async function read(text: string) {
    try {
      const found = await dataOf(client.POST("/api/strings/controllers", { body: { text } }));
      const wrong = found.problems.map((p) => `Line ${p.line}: ${p.message} Accepted: ${p.accepted}.`);
      setTold({ read: found.controllers.length, wrong });
      if (found.controllers.length > 0)
        apply((current) => ({ ...current, own_controllers: found.controllers }), "own-controllers");
    } catch {
      setTold({ read: 0, wrong: ["The file could not be read; try again."] });
    }
  }
  return (
    <div className="mb-2 text-[13px]" data-own-controllers>
      <FileField
        label="Your own list, a CSV file"
        name="Table of controllers"
        accept=".csv,.txt,text/csv,text/plain"
        mostBytes={MOST_BYTES}
        onText={(text) => void read(text)}
        onTooLarge={() => setTold({ read: 0, wrong: ["This file is larger than 200 kB."] })}
      />
      {own.length > 0 && (
        <p className="m-0">
          {own.length} of your own beside the list.{" "}
          <LinkButton
            onClick={() => apply((current) => ({ ...current, own_controllers: [] }), "own-controllers")}
          >
            drop them
          </LinkButton>
        </p>
      )}
      {told && told.wrong.length > 0 && (
        <ul role="alert" className="m-0 list-none p-0 text-alarm">
          {told.wrong.slice(0, 6).map((text) => (
            <li key={text}>▲ {text}</li>
          ))}
          {told.wrong.length > 6 && <li>and {told.wrong.length - 6} more</li>}
        </ul>
      )}
    </div>
  );
}
