import type { FitoutPicture } from "../../api/client";
import { useSay, useUnits } from "../../kit/preferences";
import { Begin, Field, Fields } from "../../kit/ui/Field";
import { Heading } from "../../kit/ui/Page";
import { Head } from "../../kit/ui/View";
import { fieldText } from "../../kit/units";
import { FrameSketch } from "./FrameSketch";

type Frame = FitoutPicture["frames"][number];
interface Props {
  picture: FitoutPicture;
  chosen: string | null;
  onChoose: (place: string) => void;
}

const the = ({ picture, chosen }: Props): Frame | undefined =>
  picture.frames.find((frame) => frame.place_id === chosen) ??
  picture.frames.find((frame) => frame.framed) ??
  picture.frames[0];

/** The stock, bars and feet of one place's frame. */
export function FrameFields(props: Props) {
  const { picture, onChoose } = props;
  const frame = the(props);
  if (!frame) return null;
  const at = `/places/${frame.place_index}`;
  return (
    <section aria-label="Frames" className="border-t border-hairline pt-2">
      <ul className="m-0 mb-2 list-none p-0">
        {picture.frames.map((one) => (
          <li key={one.place_id}>
            <button
              type="button"
              className="part-line"
              aria-pressed={one.place_id === frame.place_id}
              onClick={() => onChoose(one.place_id)}
            >
              <span className="min-w-0 flex-1 truncate text-left">{one.name}</span>
              <span className="text-[13px] text-muted">
                {one.framed ? "counted" : one.lies ? "lies on it" : "not yet"}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {frame.framed && (
        <Fields at={`${at}/frame`} of="stock metal size_m wall_m crossbars feet leg_m stock_m" />
      )}
      {(frame.no_size || !frame.framed) && (
        <>
          <Field at={`${at}/width_m`} />
          <Field at={`${at}/length_m`} />
        </>
      )}
      <Begin at={`${at}/frame`} words={`a frame for ${frame.name}`} none="take the frame away" />
    </section>
  );
}

/** How to cut a frame from stock, what it weighs, how it stands in a gust. */
export function FramesView(props: Props) {
  const say = useSay();
  const units = useUnits();
  const frame = the(props);
  if (!frame)
    return (
      <div className="m-auto max-w-[46ch] text-center">
        <h1 className="m-0 mb-2 text-[18px]">No panels aboard yet</h1>
        <p>A frame holds panels: put some on a place in the Array.</p>
      </div>
    );
  const long = (m: number) => `${fieldText(m, "length_m", units)} ${units.length}`;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Frames">
      <Heading title={`${frame.name}: frame`} in="pieces, how to cut them, what a gust does" />
      {!frame.framed && (
        <p className="max-w-[60ch]">
          {frame.lies
            ? `The panels of ${frame.name} lie on something that carries them: a frame is not needed. Begin one on the left where they stand on bars all the same.`
            : `Nothing holds the panels of ${frame.name} yet. Begin its frame on the left: tube or angle, its size and wall, bars and feet.`}
        </p>
      )}
      {frame.no_size && (
        <p className="font-semibold text-alarm">▲ This place has no size: give it width and length.</p>
      )}
      {frame.cuts.length > 0 && (
        <>
          <FrameSketch frame={frame} />
          <div className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(260px,1fr))] items-start gap-x-8 gap-y-3">
            <table className="plain-table" data-cuts>
              <Head of={["piece", "how many", "length"]} />
              <tbody>
                {frame.cuts.map((cut) => (
                  <tr key={cut.name}>
                    <td>{cut.name}</td>
                    <td>{cut.pieces}</td>
                    <td>{long(cut.length_m)}</td>
                  </tr>
                ))}
                <tr>
                  <td>
                    <b>stock of {long(frame.stock_m)}</b>
                  </td>
                  <td>
                    <b>{frame.bars.length}</b>
                  </td>
                  <td>{long(frame.left_m)} left</td>
                </tr>
              </tbody>
            </table>
            <table className="plain-table" data-strength>
              <tbody>
                <tr>
                  <td>Frame</td>
                  <td>
                    <b>
                      {fieldText(Number(frame.mass_kg.toPrecision(2)), "mass_kg", units)} {units.mass}
                    </b>{" "}
                    for {say("mass_kg", frame.panels_kg)} of panel
                  </td>
                </tr>
                <tr>
                  <td>With its frame</td>
                  <td>{frame.watts_per_kg.toFixed(1)} W a kilogram</td>
                </tr>
                <tr>
                  <td>Between feet</td>
                  <td>{long(frame.span_m)}</td>
                </tr>
                {frame.hinges > 0 && (
                  <tr>
                    <td>Hinge line</td>
                    <td>
                      {long(frame.hinge_m)}, {frame.hinges} hinges
                    </td>
                  </tr>
                )}
                {frame.cable_mm2 != null && frame.needs_m != null && (
                  <tr>
                    <td>Cable of {frame.cable_mm2} mm² inside</td>
                    <td>
                      {frame.inside_m == null
                        ? "no tube: clip it"
                        : frame.inside_m >= frame.needs_m
                          ? "both conductors fit"
                          : `too narrow: ${(frame.needs_m * 1000).toFixed(0)} mm inside wanted`}
                    </td>
                  </tr>
                )}
                <tr>
                  <td>Hangs through</td>
                  <td>{(frame.sag_m * 1000).toFixed(1)} mm</td>
                </tr>
                <tr>
                  <td>In a gust of {say("speed_mps", frame.gust_mps)}</td>
                  <td>
                    {say("force_n", frame.gust_pull_n)} on each foot, {(frame.gust_sag_m * 1000).toFixed(1)}{" "}
                    mm
                  </td>
                </tr>
                {frame.holds != null && (
                  <tr>
                    <td>Bends for good at</td>
                    <td>{frame.holds.toFixed(1)} times that</td>
                  </tr>
                )}
              </tbody>
            </table>
          </div>
          {frame.too_long && (
            <p className="m-0 mt-1 font-semibold text-sun-text">
              ▲ A piece is longer than the stock: it is counted as joined of two, with a sleeve inside.
            </p>
          )}
          <p className="mt-2 max-w-[70ch] text-[13px] text-muted">
            An estimate by beam theory with the panels' own mass: corners count as hinges, a saw takes 3 mm.
            Waves, people and a trailer on a bad road pull harder. Cable can run inside a tube of 20 mm and
            more: deburr it, leave a drip hole at the lowest point. Insulate unlike metals.
          </p>
        </>
      )}
    </div>
  );
}
