import { useState } from "react";
import { Navigate } from "react-router";
import { BoatMenu } from "./BoatMenu";
import { Logo } from "./Logo";
import { NewBoatDialog, Sheet } from "./sheets";
import { useBoats } from "./Workspace";

/** The way in: the first boat, or the one next step where there is none. */
export function FirstBoat() {
  const boats = useBoats();
  const [adding, setAdding] = useState(false);
  const first = boats.data?.find((row) => !row.damaged)?.variants.find((item) => item.is_working);
  if (first) return <Navigate to={`/hull/${first.id}`} replace />;
  if (boats.error)
    return (
      <main className="grid h-full place-content-center justify-items-center gap-3">
        <p role="alert">The server did not answer.</p>
        <button type="button" className="btn" onClick={() => void boats.refetch()}>
          Try again
        </button>
      </main>
    );
  if (!boats.data)
    return (
      <p className="p-6" role="status">
        Looking for your boats …
      </p>
    );
  return (
    <main className="grid h-full place-content-center justify-items-center gap-4">
      <Logo width={96} />
      <h1 className="m-0 text-[22px]">No boat yet</h1>
      <p className="m-0">Start from a kind of boat; change what is yours; see how far the sun takes her.</p>
      <button type="button" className="btn" data-main onClick={() => setAdding(true)}>
        Start a boat
      </button>
      <BoatMenu boats={[]} name="Menu" variantName="open a file, units" saveState={null} />
      <Sheet open={adding}>
        <NewBoatDialog open onOpen={setAdding} />
      </Sheet>
    </main>
  );
}
