import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { client, type DeviceOut, dataOf } from "../../api/client";
import { useLogbook } from "../../kit/logbook";

const ASKED_MS = 2000;
export const NOW_MS = 600; // where every second is shown

/** The devices of this boat: listened to from the moment the log is open, asked again while one is on. */
export function useDevices(everyMs = ASKED_MS): DeviceOut[] | undefined {
  const { boatId, reload } = useLogbook();
  const { data: devices } = useQuery({
    queryKey: ["devices", boatId],
    queryFn: () =>
      dataOf(client.GET("/api/boats/{boat_id}/devices", { params: { path: { boat_id: boatId } } })),
    refetchInterval: (query) => (query.state.data?.some((device) => device.is_on) ? everyMs : false),
  });
  const kept = devices?.reduce((sum, device) => sum + device.kept, 0) ?? 0;
  useEffect(() => {
    if (kept > 0) reload(); // a new reading stands in the logbook
  }, [kept, reload]);
  return devices;
}
