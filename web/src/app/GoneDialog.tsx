import { useQueryClient } from "@tanstack/react-query";
import { AlertDialog } from "radix-ui";
import { useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { openFile } from "../api/client";
import { useDesign } from "../kit/document";
import { Alarm } from "../kit/ui/Alarm";
import { useSaving } from "./saving";

/** The boat was removed in another window while something here was not saved yet. */
export function GoneDialog() {
  const { design } = useDesign();
  const { letGo } = useSaving();
  const { station = "hull" } = useParams();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const keeping = useRef<HTMLButtonElement>(null);
  const [wrong, setWrong] = useState<string | null>(null);

  async function keep() {
    try {
      const row = await openFile(new File([JSON.stringify(design)], "kept.json"));
      letGo();
      await queries.invalidateQueries({ queryKey: ["boats"] });
      navigate(`/${station}/${row.variants.find((item) => item.is_working)?.id}`);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "The server did not answer.");
    }
  }

  return (
    <AlertDialog.Root open>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-20 bg-black/35" />
        <AlertDialog.Content
          onOpenAutoFocus={(event) => {
            event.preventDefault();
            keeping.current?.focus();
          }}
          className="sheet fixed top-1/2 left-1/2 z-30 w-[460px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 p-6"
        >
          <AlertDialog.Title className="m-0 mb-2 text-[18px] font-bold">
            {design.name} was removed in another window
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-0 mb-5">
            What you see here is still whole. Keep it as a new boat, or let it go.
          </AlertDialog.Description>
          {wrong && <Alarm>{wrong}</Alarm>}
          <div className="flex justify-end gap-2">
            <AlertDialog.Cancel
              className="btn"
              onClick={async () => {
                letGo();
                await queries.invalidateQueries({ queryKey: ["boats"] });
                navigate("/");
              }}
            >
              Let it go
            </AlertDialog.Cancel>
            <button ref={keeping} type="button" className="btn" data-main onClick={() => void keep()}>
              Keep as a new boat
            </button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
