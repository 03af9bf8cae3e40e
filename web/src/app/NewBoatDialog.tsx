import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { client, dataOf } from "../api/client";
import { useHullTypes } from "../boat/hullTypes";

/** A new boat from a hull type: everything else starts at what is usual, and can be changed. */
export function NewBoatDialog({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const types = useHullTypes().data ?? [];
  const places =
    useQuery({
      queryKey: ["places"],
      queryFn: () => dataOf(client.GET("/api/design/places")),
      staleTime: Number.POSITIVE_INFINITY,
    }).data ?? [];
  const [type, setType] = useState("launch");
  const [name, setName] = useState("");
  const [place, setPlace] = useState(0);
  const add = useMutation({
    mutationFn: () => {
      const site = places[place];
      if (!site) throw new Error("The places are not loaded yet.");
      const date = new Date().toISOString().slice(0, 10);
      const chosen = types.find((item) => item.type === type);
      const body = {
        hull_type: chosen?.type ?? "launch",
        name: name.trim() || `New ${chosen?.label.toLowerCase() ?? "boat"}`,
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
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/35" />
        <Dialog.Content
          className="sheet fixed top-1/2 left-1/2 z-30 w-[420px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 p-6"
          aria-describedby={undefined}
        >
          <Dialog.Title className="m-0 mb-3 text-[18px] font-bold">A new boat</Dialog.Title>
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
                {types.map((item) => (
                  <option key={item.type} value={item.type}>
                    {item.label}
                  </option>
                ))}
              </select>
            </label>
            <label className="mb-3 block">
              Where
              <select
                className={field}
                value={place}
                onChange={(event) => setPlace(Number(event.target.value))}
              >
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
            {add.error && (
              <p role="alert" className="font-semibold text-alarm">
                {add.error.message}
              </p>
            )}
            <div className="flex justify-end gap-2">
              <Dialog.Close className="btn">Cancel</Dialog.Close>
              <button type="submit" className="btn" data-main disabled={add.isPending}>
                Start
              </button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
