import { useMutation, useQueryClient } from "@tanstack/react-query";
import { DropdownMenu, Popover } from "radix-ui";
import { type FormEvent, type RefObject, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { type BoatRow, client, dataOf } from "../api/client";
import { useDesign } from "../kit/document";
import { useToast } from "../kit/Toast";
import { Alarm } from "../kit/ui/Alarm";

interface Props {
  boat: BoatRow | undefined;
  comparedId: string | null;
  onCompare: (id: string | null) => void;
  trigger: RefObject<HTMLButtonElement | null>;
}

/** Keep this design as a variant, and choose which one the rail is compared with. */
export function VariantPanel({ boat, comparedId, onCompare, trigger }: Props) {
  const { station = "hull" } = useParams();
  const navigate = useNavigate();
  const { design, variant } = useDesign();
  const queries = useQueryClient();
  const toast = useToast();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const others = (boat?.variants ?? []).filter((item) => item.id !== variant.id);
  const compared = others.find((item) => item.id === comparedId);
  const refresh = () => queries.invalidateQueries({ queryKey: ["boats"] });
  const keep = useMutation({
    mutationFn: () => {
      const kept = name.trim() || `kept ${new Date().toTimeString().slice(0, 5)}`;
      return dataOf(
        client.POST("/api/boats/{boat_id}/variants", {
          params: { path: { boat_id: variant.boat_id } },
          body: { name: kept, design },
        }),
      );
    },
    onSuccess: async (kept) => {
      await refresh();
      setOpen(false);
      setName("");
      onCompare(kept.id);
    },
  });
  const drop = useMutation({
    mutationFn: async (id: string) => {
      const path = { params: { path: { variant_id: id } } };
      const gone = await dataOf(client.GET("/api/variants/{variant_id}", path));
      await dataOf(client.DELETE("/api/variants/{variant_id}", path));
      return gone;
    },
    onSuccess: async (gone) => {
      if (gone.id === comparedId) onCompare(null);
      await refresh();
      toast({
        text: `${gone.name} is dropped.`,
        action: {
          label: "Undo",
          run: async () => {
            const body = { name: gone.name, design: gone.design };
            await dataOf(
              client.POST("/api/boats/{boat_id}/variants", {
                params: { path: { boat_id: gone.boat_id } },
                body,
              }),
            );
            await refresh();
          },
        },
      });
    },
  });
  return (
    <div className="no-print flex w-[158px] flex-col items-stretch gap-1 pt-1 text-center">
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger asChild>
          <button
            ref={trigger}
            type="button"
            className="min-h-[36px] cursor-pointer rounded-full border-2 border-rail-number bg-transparent px-3 font-bold text-rail-number focus-visible:outline-[var(--rail-number)]"
          >
            Keep as variant
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            className="sheet z-30 w-[300px] p-4"
            side="top"
            sideOffset={8}
            collisionPadding={10}
            aria-label="Keep as variant"
          >
            <form
              onSubmit={(event: FormEvent) => {
                event.preventDefault();
                keep.mutate();
              }}
            >
              <label className="mb-2 block">
                Call it
                <input
                  className="h-[32px] w-full rounded-[5px] border border-edge bg-field px-2 text-ink"
                  value={name}
                  maxLength={80}
                  placeholder="such as: with wings"
                  onChange={(event) => setName(event.target.value)}
                />
              </label>
              {keep.error && <Alarm>{keep.error.message}</Alarm>}
              <button type="submit" className="btn w-full" data-main disabled={keep.isPending}>
                Keep and compare
              </button>
            </form>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="cursor-pointer border-0 bg-transparent text-[12.5px] text-on-deep-muted focus-visible:outline-[var(--rail-number)]">
          {compared ? `compared with: ${compared.name}` : "compare with …"} <span aria-hidden="true">▴</span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            className="sheet z-30 w-[260px] p-1.5"
            side="top"
            align="end"
            collisionPadding={8}
          >
            <DropdownMenu.Label className="px-3 py-1 text-[13px] font-bold text-muted">
              Compare the rail with
            </DropdownMenu.Label>
            {others.length === 0 && (
              <p className="m-0 px-3 py-1 text-muted">No other variant of this boat yet.</p>
            )}
            {others.map((item) => (
              <DropdownMenu.Item key={item.id} className="menu-item" onSelect={() => onCompare(item.id)}>
                <span aria-hidden="true" className="w-3">
                  {item.id === comparedId ? "●" : "○"}
                </span>
                {item.name}
              </DropdownMenu.Item>
            ))}
            {comparedId && (
              <DropdownMenu.Item className="menu-item" onSelect={() => onCompare(null)}>
                <span className="w-3" />
                nothing
              </DropdownMenu.Item>
            )}
            {others.length > 0 && (
              <>
                <DropdownMenu.Separator className="my-1.5 h-px bg-hairline" />
                {others.map((item) => (
                  <DropdownMenu.Item
                    key={item.id}
                    className="menu-item"
                    onSelect={() => navigate(`/${station}/${item.id}`)}
                  >
                    Work on {item.name}
                  </DropdownMenu.Item>
                ))}
                {others
                  .filter((item) => !item.is_working)
                  .map((item) => (
                    <DropdownMenu.Item
                      key={`drop-${item.id}`}
                      className="menu-item"
                      onSelect={() => drop.mutate(item.id)}
                    >
                      Drop {item.name}
                    </DropdownMenu.Item>
                  ))}
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}
