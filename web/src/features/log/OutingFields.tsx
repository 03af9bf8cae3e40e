import type { LogOuting } from "../../api/client";
import { useLogbook } from "../../kit/logbook";
import { useToast } from "../../kit/Toast";
import { LinkButton } from "../../kit/ui/LinkButton";
import { OwnField, OwnText } from "../../kit/ui/OwnField";

/** What is noted of an outing beside its readings. */
export function OutingFields({ outing }: { outing: LogOuting }) {
  const { noteOuting, withdrawOuting } = useLogbook();
  const toast = useToast();
  const put = (change: Partial<LogOuting>) => noteOuting({ ...outing, ...change });
  return (
    <>
      <OwnText label="Called" value={outing.name ?? ""} onValue={(name) => put({ name: name || "Outing" })} />
      <OwnField
        label="Distance"
        kind="distance_m"
        low={0}
        high={2_000_000}
        hint="Empty: from the speeds that were read"
        value={outing.distance_m}
        onValue={(distance_m) => put({ distance_m })}
      />
      <OwnField
        label="Planned"
        kind="distance_m"
        low={0}
        high={2_000_000}
        value={outing.planned_m}
        onValue={(planned_m) => put({ planned_m })}
      />
      <OwnField
        label="From the shore"
        kind="energy_wh"
        low={0}
        high={1_000_000}
        hint="Charged from elsewhere than the sun"
        value={outing.shore_wh || null}
        onValue={(value) => put({ shore_wh: value ?? 0 })}
      />
      <OwnField
        label="Air, highest"
        kind="temperature_c"
        low={-50}
        high={60}
        hint="Empty: usual for place and day"
        value={outing.highest_c}
        onValue={(highest_c) => put({ highest_c })}
      />
      <OwnField
        label="Wind"
        kind="speed_mps"
        low={0}
        high={40}
        hint="Empty: as planned"
        value={outing.wind_mps}
        onValue={(wind_mps) => put({ wind_mps })}
      />
      <OwnField
        label="Heading"
        kind="angle_deg"
        low={0}
        high={360}
        hint="Empty: as planned"
        value={outing.heading_deg}
        onValue={(heading_deg) => put({ heading_deg })}
      />
      <OwnText label="What broke" value={outing.broke ?? ""} most={400} onValue={(broke) => put({ broke })} />
      <OwnText label="Note" value={outing.note ?? ""} most={2000} onValue={(note) => put({ note })} />
      <div className="mt-1 flex justify-between gap-3">
        {outing.ended_at == null ? (
          <LinkButton onClick={() => put({ ended_at: new Date().toISOString() })}>end it now</LinkButton>
        ) : (
          <LinkButton onClick={() => put({ ended_at: null })}>it goes on</LinkButton>
        )}
        <LinkButton
          onClick={() => {
            withdrawOuting(outing.id);
            toast({
              text: `${outing.name || "The outing"} is taken away, with its readings.`,
              action: { label: "put it back", run: () => noteOuting(outing) },
            });
          }}
        >
          take it away
        </LinkButton>
      </div>
    </>
  );
}
