import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, dataOf, refitted, type WishPoint } from "../../api/client";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { Alarm } from "../../kit/ui/Alarm";
import { Told } from "../../kit/ui/Told";
import { shown } from "../../kit/units";
import { MARKS } from "./points";

/** One whole boat: what she has, costs and weighs, how surely she does it; and she opens as a variant. */
export function PointCard({ point }: { point: WishPoint }) {
  const { design, variant } = useDesign();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const say = useSay();
  const units = useUnits();
  const open = useMutation({
    mutationFn: () =>
      dataOf(
        client.POST("/api/boats/{boat_id}/variants", {
          params: { path: { boat_id: variant.boat_id } },
          body: {
            name: `Wish, ${shown(point.reach, units)} for ${say("money", point.cost)}`,
            design: refitted(design, point.refit),
          },
        }),
      ),
    onSuccess: async (kept) => {
      await queries.invalidateQueries({ queryKey: ["boats"] });
      navigate({ pathname: `/array/${kept.id}`, search: `?compare=${variant.id}` });
    },
  });
  const facts = [
    ["reaches", <Told key="reaches" sentence={point.reaches} />],
    ["costs", point.cost > 0 ? say("money", point.cost) : "nothing"],
    ["weight", point.added_kg ? say("mass_kg", point.added_kg, true) : "the same"],
    ["panels", say("power_w", point.watts)],
    ["bank", point.bank_wh > 0 ? say("energy_wh", point.bank_wh) : "none"],
    ["boxes", String(point.boxes)],
    ["stiffness taken", say("fraction", point.stiffness_frac)],
    ...(point.top_m == null ? [] : [["highest panel", say("length_m", point.top_m)] as const]),
  ] as const;
  return (
    <section aria-label="The boat chosen" data-chosen-point className="min-w-0">
      <div className="mb-1 flex items-center justify-between gap-3">
        <span className="text-[13px] text-muted">
          {point.marks.map((mark) => MARKS[mark]).join(" · ") || "on the way from cheap to far"}
        </span>
        <button
          type="button"
          className="btn whitespace-nowrap"
          data-main
          disabled={open.isPending}
          onClick={() => open.mutate()}
        >
          Open as a variant
        </button>
      </div>
      <dl className="m-0 mb-1.5 grid grid-cols-[auto_1fr_auto_1fr] gap-x-3 gap-y-0.5 text-[13.5px]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-muted">{name}</dt>
            <dd className="m-0 font-bold">{value}</dd>
          </div>
        ))}
      </dl>
      <ul className="m-0 mb-1.5 list-none p-0 text-[13.5px]">
        {point.asks.map((ask) => (
          <li key={ask.id} data-met={ask.met}>
            <span aria-hidden="true">{ask.met ? "✓" : "○"}</span> <b>{say("fraction", ask.surely_frac)}</b> of
            days, {say("fraction", ask.wanted_frac)} wished: <Told sentence={ask.label} />
          </li>
        ))}
      </ul>
      <ul className="m-0 mb-2 list-none p-0 text-[13.5px]" aria-label="She has">
        {point.has.map((line, k) => (
          <li key={k}>
            <Told sentence={line} />
          </li>
        ))}
      </ul>
      {point.next_buys && (
        <p className="m-0 mb-2 text-[13.5px]">
          <Told sentence={point.next_buys} />
        </p>
      )}
      {open.error && <Alarm>{open.error.message}</Alarm>}
    </section>
  );
}
