import { AlertDialog } from "radix-ui";
import { useUnits } from "../kit/preferences";
import { Head } from "../kit/ui/View";
import { shown } from "../kit/units";
import { useSaving } from "./saving";

/** Another window saved this boat meanwhile: nothing is overwritten until the person chooses. */
export function ConflictDialog() {
  const units = useUnits();
  const { conflict, keepMine, takeTheirs } = useSaving();
  return (
    <AlertDialog.Root open={conflict !== null}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-20 bg-black/35" />
        <AlertDialog.Content className="sheet fixed top-1/2 left-1/2 z-30 w-[500px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 p-6">
          <AlertDialog.Title className="m-0 mb-2 text-[18px] font-bold">
            Changed in another window
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-0">
            This boat was saved elsewhere since you opened it. Nothing is overwritten yet. These entries
            differ:
          </AlertDialog.Description>
          <table className="bench-table mb-4 block max-h-[220px] w-full overflow-y-auto text-[13.5px]">
            <Head of={["entry", "there", "here"]} />
            <tbody>
              {conflict?.difference.map((item) => (
                <tr key={item.field}>
                  <td className="pr-4">{item.label}</td>
                  <td className="tabular pr-4">{item.before ? shown(item.before, units) : "nothing"}</td>
                  <td className="tabular">{item.after ? shown(item.after, units) : "nothing"}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="flex justify-end gap-2">
            <AlertDialog.Cancel className="btn" onClick={takeTheirs}>
              Take the other
            </AlertDialog.Cancel>
            <AlertDialog.Action className="btn" data-main onClick={keepMine}>
              Keep mine
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
