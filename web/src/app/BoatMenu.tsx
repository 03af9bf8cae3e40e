import { useMutation, useQueryClient } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { type BoatRow, client, dataOf, openFile, type Problem } from "../api/client";
import { type Theme, usePreferences } from "../kit/preferences";
import { useToast } from "../kit/Toast";
import type { SaveState } from "./saving";
import { NewBoatDialog, Sheet } from "./sheets";

const THEMES: [Theme, string][] = [
  ["daylight", "Daylight"],
  ["dusk", "Dusk"],
  ["night", "Night watch"],
];
const UNITS = [
  ["speed", ["kn", "km/h", "mph"]],
  ["mass", ["kg", "lb"]],
  ["length", ["m", "ft"]],
] as const;
const LARGEST_FILE_BYTES = 1_000_000;

const SAVE_WORDS: Record<SaveState, string> = {
  saved: "saved",
  saving: "saving …",
  failed: "not saved yet",
  conflict: "changed in another window",
  gone: "removed elsewhere",
  refused: "not saved: an entry is refused",
};

/** What is wrong, to its first colon, inside a sentence. */
function inShort({ message }: Problem): string {
  const first = message.split(":")[0] ?? message;
  return first.charAt(0).toLowerCase() + first.slice(1).replace(/\.$/, "");
}

interface Props {
  boats: BoatRow[];
  name: string;
  variantName: string;
  saveState: SaveState | null;
  again?: { pause: string; fault: Problem | null; tryNow: () => void };
  onHistory?: () => void;
}

/** The boats, their files, and how the pages look and measure. */
export function BoatMenu({ boats, name, variantName, saveState, again, onHistory }: Props) {
  const { station = "hull", variantId } = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const toast = useToast();
  const fault = again?.fault ?? null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: told once, however often it is tried
  useEffect(() => {
    if (fault) toast({ text: `${fault.message}${fault.accepted ? ` What helps: ${fault.accepted}.` : ""}` });
  }, [fault?.code]);
  const preferences = usePreferences();
  const [adding, setAdding] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const boat = boats.find((item) => item.variants.some((variant) => variant.id === variantId));
  const refresh = () => queries.invalidateQueries({ queryKey: ["boats"] });
  const go = (row: BoatRow) => navigate(`/${station}/${row.variants.find((item) => item.is_working)?.id}`);

  const duplicate = useMutation({
    mutationFn: (id: string) =>
      dataOf(client.POST("/api/boats/{boat_id}/duplicate", { params: { path: { boat_id: id } } })),
    onSuccess: async (row) => {
      await refresh();
      go(row);
    },
  });
  const remove = useMutation({
    mutationFn: (id: string) =>
      dataOf(client.DELETE("/api/boats/{boat_id}", { params: { path: { boat_id: id } } })),
    onSuccess: async (_, id) => {
      const next = boats.find((item) => item.id !== id);
      if (next) go(next);
      else navigate("/");
      await refresh();
      toast({
        text: `${name} is deleted.`,
        action: {
          label: "Undo",
          run: async () => {
            const row = await dataOf(
              client.POST("/api/boats/{boat_id}/restore", { params: { path: { boat_id: id } } }),
            );
            await refresh();
            go(row);
          },
        },
      });
    },
  });

  async function open(chosen: File | undefined) {
    if (!chosen) return;
    if (chosen.size > LARGEST_FILE_BYTES) {
      toast({
        text: `${chosen.name} has ${(chosen.size / 1e6).toFixed(1)} MB; a boat design has 1 MB at most.`,
      });
      return;
    }
    try {
      const row = await openFile(chosen);
      await refresh();
      go(row);
      toast({ text: `${row.name} is opened as a new boat.` });
    } catch (error) {
      toast({ text: `${chosen.name} was not opened. ${whatIsWrong(error)}` });
    }
  }

  return (
    <div className="flex items-center gap-2">
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        className="sr-only"
        aria-label="Design file"
        tabIndex={-1}
        onChange={(event) => {
          void open(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="cursor-pointer rounded border-0 bg-transparent px-2 py-1 text-right text-ink hover:bg-field"
          aria-label={`Boat: ${name}`}
        >
          <span className="block text-[15px] leading-tight font-bold">
            {name} <span aria-hidden="true">▾</span>
          </span>
          <span className="block text-[13px] text-muted">
            {variantName}
            {saveState && (
              <span aria-live="polite">
                {` · ${SAVE_WORDS[saveState]}`}
                {saveState === "failed" && again && (
                  <>
                    {again.fault && `: ${inShort(again.fault)}`}, tried again every {again.pause}
                  </>
                )}
              </span>
            )}
          </span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            className="sheet z-30 max-h-[86vh] w-[290px] overflow-y-auto p-1.5"
            align="end"
            sideOffset={4}
            collisionPadding={8}
          >
            <Heading text="Boats" />
            {boats
              .filter((row) => row.damaged)
              .map((row) => (
                <DropdownMenu.Item
                  key={row.id}
                  className="menu-item"
                  title={row.damaged ?? undefined}
                  onSelect={() => window.open(`/api/variants/${row.variants[0]?.id}/file`)}
                >
                  <span aria-hidden="true" className="w-4 text-alarm">
                    ▲
                  </span>
                  {row.name}: damaged, save it as it is
                </DropdownMenu.Item>
              ))}
            {boats
              .filter((row) => !row.damaged)
              .map((row) => (
                <DropdownMenu.Item key={row.id} className="menu-item" onSelect={() => go(row)}>
                  <span aria-hidden="true" className="w-4">
                    {row.id === boat?.id ? "●" : ""}
                  </span>
                  {row.name}
                </DropdownMenu.Item>
              ))}
            <DropdownMenu.Item className="menu-item" onSelect={() => setAdding(true)}>
              <span className="w-4">+</span>New boat …
            </DropdownMenu.Item>
            <Line />
            <DropdownMenu.Item
              className="menu-item"
              disabled={!boat}
              onSelect={() => boat && duplicate.mutate(boat.id)}
            >
              Duplicate
            </DropdownMenu.Item>
            <DropdownMenu.Item
              className="menu-item"
              disabled={!boat}
              onSelect={() => boat && remove.mutate(boat.id)}
            >
              Delete
            </DropdownMenu.Item>
            {saveState === "failed" && again && (
              <DropdownMenu.Item className="menu-item" onSelect={again.tryNow}>
                Save now
              </DropdownMenu.Item>
            )}
            {variantId && (
              <DropdownMenu.Item
                className="menu-item"
                onSelect={() => navigate(`/fitout/${variantId}?view=sun`)}
              >
                Is this reading right? …
              </DropdownMenu.Item>
            )}
            {onHistory && (
              <DropdownMenu.Item className="menu-item" disabled={saveState !== "saved"} onSelect={onHistory}>
                History …
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className="menu-item" disabled={!variantId || saveState !== "saved"} asChild>
              <a className="text-inherit no-underline" href={`/api/variants/${variantId}/file`} download>
                Download the design
              </a>
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => file.current?.click()}>
              Open a design file …
            </DropdownMenu.Item>
            <Line />
            <Heading text="Units" />
            {UNITS.map(([key, choices]) => (
              <DropdownMenu.RadioGroup
                key={key}
                className="flex"
                value={preferences.units[key]}
                onValueChange={(value) =>
                  preferences.change({ units: { ...preferences.units, [key]: value } })
                }
              >
                {choices.map((unit) => (
                  <DropdownMenu.RadioItem
                    key={unit}
                    value={unit}
                    className="menu-item flex-1"
                    onSelect={(event) => event.preventDefault()}
                  >
                    <span aria-hidden="true" className="w-3">
                      {preferences.units[key] === unit ? "●" : "○"}
                    </span>
                    {unit}
                  </DropdownMenu.RadioItem>
                ))}
              </DropdownMenu.RadioGroup>
            ))}
            <Heading text="Light" />
            <DropdownMenu.RadioGroup
              value={preferences.theme}
              onValueChange={(value) => preferences.change({ theme: value as Theme })}
            >
              {THEMES.map(([theme, label]) => (
                <DropdownMenu.RadioItem
                  key={theme}
                  value={theme}
                  className="menu-item"
                  onSelect={(event) => event.preventDefault()}
                >
                  <span aria-hidden="true" className="w-3">
                    {preferences.theme === theme ? "●" : "○"}
                  </span>
                  {label}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Sheet open={adding}>
        <NewBoatDialog open onOpen={setAdding} />
      </Sheet>
    </div>
  );
}

function whatIsWrong(error: unknown): string {
  const problems =
    error && typeof error === "object" && "problems" in error
      ? (error.problems as { message: string; field: string; accepted?: string | null }[])
      : [];
  const first = problems[0];
  if (!first) return error instanceof Error ? error.message : "The server did not answer.";
  const more = problems.length > 1 ? ` And ${problems.length - 1} more.` : "";
  return `${first.field ? `At ${first.field}: ` : ""}${first.message}${first.accepted ? ` Accepted: ${first.accepted}.` : ""}${more}`;
}

const Heading = ({ text }: { text: string }) => (
  <DropdownMenu.Label className="px-3 pt-1.5 pb-0.5 text-[13px] font-bold text-muted">
    {text}
  </DropdownMenu.Label>
);
const Line = () => <DropdownMenu.Separator className="my-1.5 h-px bg-hairline" />;
