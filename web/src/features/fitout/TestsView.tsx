import type { FitoutPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay, useUnits } from "../../kit/preferences";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Heading } from "../../kit/ui/Page";
import { told } from "../../kit/units";
import { CurveChart } from "./CurveChart";
import { OtherView } from "./OtherTests";

/** The measured curve over the label's, and what it says of the panel. */
export function TestsView(props: {
  picture: FitoutPicture;
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const { picture, chosen } = props;
  const { design, apply } = useDesign();
  const units = useUnits();
  const say = useSay();
  const other = picture.others.find((one) => one.id === chosen);
  const test = picture.tests.find((one) => one.note.id === chosen) ?? picture.tests[0];
  const first = picture.others[0];
  if (other) return <OtherView test={other} />;
  if (!test && first) return <OtherView test={first} />;
  if (!test)
    return (
      <div className="m-auto max-w-[50ch] text-center">
        <h1 className="m-0 mb-2 text-[18px]">No panel has been on the bench</h1>
        <p>
          Lay one in the sun, with a meter and a load. Short amps and open volts tell a dead third from a
          sound panel; a few pairs about the knee tell the rest. Begin with “test a panel”, on the left.
        </p>
      </div>
    );
  const group = test.group_index == null ? undefined : design.panels?.[test.group_index];
  const share = test.share;
  const take = () => {
    if (test.group_index == null || share == null) return;
    const at = `/panels/${test.group_index}/derate_frac`;
    apply((current) => withValue(current, at, Math.round(Math.min(share, 1.2) * 1000) / 1000), at);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <Heading
        title={test.note.name}
        in={test.label ? `on the bench, beside its label: ${test.label}` : "on the bench"}
      />
      <div className="min-h-[220px] flex-1">
        <CurveChart test={test} />
      </div>
      <p className="m-0">
        <b>{told(test.title, units)}.</b> {told(test.detail, units)}
      </p>
      {test.curve.length > 0 && (
        <table className="plain-table mt-1 max-w-[620px]" data-found>
          <thead>
            <tr>
              <th>
                <span className="sr-only">At</span>
              </th>
              <th>best</th>
              <th>open</th>
              <th>short</th>
              <th>fill</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>in this light</td>
              <td>
                <b>{say("power_w", test.test_w ?? 0)}</b> at {say("voltage_v", test.best_v ?? 0)}
              </td>
              <td>{say("voltage_v", test.open_v ?? 0)}</td>
              <td>{(test.short_a ?? 0).toFixed(2)} A</td>
              <td>{(test.fill ?? 0).toFixed(2)}</td>
            </tr>
            {test.standard_w != null && (
              <tr>
                <td>in full sun at 25 °C</td>
                <td>
                  <b>{say("power_w", test.standard_w)}</b> of {say("power_w", test.label_w ?? 0)}
                </td>
                <td colSpan={3} className="text-left! text-muted">
                  the light is known within {say("fraction", test.note.light_known_frac ?? 0.05)}
                </td>
              </tr>
            )}
          </tbody>
        </table>
      )}
      {group && share != null && (
        <p className="no-print m-0 mt-2 mb-1">
          The design counts {say("fraction", group.derate_frac ?? 1)} of its label.{" "}
          {share <= 1.2 && share >= 0.05 && (
            <LinkButton onClick={take}>
              count {say("fraction", share)} for all {group.count ?? 1} of them
            </LinkButton>
          )}
        </p>
      )}
    </div>
  );
}
