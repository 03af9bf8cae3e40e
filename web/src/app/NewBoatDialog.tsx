import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { type BoatDesign, client, dataOf } from "../api/client";
import { useList } from "../asking/lists";
import { Alarm } from "../kit/ui/Alarm";
import { Window } from "../kit/ui/Window";

type HullType = NonNullable<BoatDesign["hull"]["type"]>;

/** A new boat from a hull type: everything else starts at what is usual, and can be changed. */
export function NewBoatDialog({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const types = useList("entries").data?.options("/hull/type") ?? [];
  const places = useList("places").data ?? [];
  const [type, setType] = useState("launch");
  const [name, setName] = useState("");
  const [place, setPlace] = useState(0);
  const add = useMutation({
    mutationFn: () => {
      const site = places[place];
      if (!site) throw new Error("The places are not loaded yet.");
      const date = new Date().toISOString().slice(0, 10);
      const body = {
        hull_type: type as HullType,
        name: name.trim() || `New ${types.find(([key]) => key === type)?.[1].toLowerCase() ?? "boat"}`,
        site,
        date,
      };
      return dataOf(client.POST("/api/boats", { body }));
    },
    onSuccess: (boat) => {
      queries.invalidateQueries({ queryKey: ["boats"] });
      onOpen(false);
      setName("");
      navigate(`/hull/${boat.variants.find((item) => item.is_working)?.id}`);
    },
  });
  const field = "h-[32px] w-full rounded-[5px] border border-edge bg-field px-2 text-ink";
  return (
    <Window open={open} onOpen={onOpen} title="A new boat" width={420}>
      <form
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          add.mutate();
        }}
      >
        <label className="mb-3 block">
          Name
          <input
            className={field}
            value={name}
            maxLength={80}
            placeholder="what you call her"
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label className="mb-3 block">
          What kind of boat
          <select className={field} value={type} onChange={(event) => setType(event.target.value)}>
            {types.map(([key, label]) => (
              <option key={key} value={key}>
                {label}
              </option>
            ))}
          </select>
        </label>
        <label className="mb-3 block">
          Where
          <select className={field} value={place} onChange={(event) => setPlace(Number(event.target.value))}>
            {places.map((item, index) => (
              <option key={item.name} value={index}>
                {item.name}
              </option>
            ))}
          </select>
        </label>
        <p className="mt-0 text-[13px] text-muted">
          Sizes, motor, bank and panels start at what is usual for the type. Change what is yours.
        </p>
        {add.error && <Alarm>{add.error.message}</Alarm>}
        <div className="flex justify-end gap-2">
          <Dialog.Close className="btn">Cancel</Dialog.Close>
          <button type="submit" className="btn" data-main disabled={add.isPending}>
            Start
          </button>
        </div>
      </form>
    </Window>
  );
}
