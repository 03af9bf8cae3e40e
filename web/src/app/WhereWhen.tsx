import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { type BoatDesign, client, dataOf, type Known } from "../api/client";
import { useList } from "../asking/lists";
import { INPUT } from "../kit/ui/fields";
import { LinkButton } from "../kit/ui/LinkButton";
import { WorldMap } from "./WorldMap";

type Site = BoatDesign["site"];
const FROM_LETTERS = 2;

/** Towns by name, with the waters that come with the product while nothing is typed. */
export function Where({ site, onSite }: { site: Site | undefined; onSite: (site: Site) => void }) {
  const id = useId();
  const [text, setText] = useState<string | null>(null);
  const [map, setMap] = useState(false);
  const waters = useList("places").data ?? [];
  const asked = text?.trim() ?? "";
  const towns = useQuery({
    queryKey: ["towns", asked],
    queryFn: () => dataOf(client.GET("/api/design/towns", { params: { query: { name: asked } } })),
    enabled: asked.length >= FROM_LETTERS,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const near = waters.filter(
    (item) => item.longitude_deg !== 0 && item.name?.toLowerCase().includes(asked.toLowerCase()),
  );
  const found: (readonly [string, Site])[] = [
    ...near.map((item) => [item.name ?? "", item] as const),
    ...(asked.length < FROM_LETTERS ? [] : (towns.data ?? [])).map(
      (town) =>
        [
          `${town.name}, ${town.country}`,
          {
            name: town.name,
            latitude_deg: town.latitude_deg,
            longitude_deg: town.longitude_deg,
            altitude_m: 0,
          } as Site,
        ] as const,
    ),
  ];
  return (
    <div className="relative">
      <div className="flex min-h-[32px] items-center justify-between gap-2">
        <label htmlFor={id}>Where</label>
        <input
          id={id}
          className={`${INPUT} text-left!`}
          style={{ width: 170 }}
          role="combobox"
          aria-expanded={text !== null}
          aria-controls={`${id}-found`}
          autoComplete="off"
          placeholder="a town near her water"
          value={text ?? site?.name ?? ""}
          onFocus={() => setText("")}
          onChange={(event) => setText(event.target.value)}
          onBlur={(event) => {
            if (!event.relatedTarget?.closest(`[id="${id}-found"]`)) setText(null);
          }}
          onKeyDown={(event) => {
            const first = found[0];
            if (event.key === "Enter" && text !== null) {
              event.preventDefault();
              if (first) onSite(first[1]);
              setText(null);
            }
          }}
        />
      </div>
      <div className="flex justify-end">
        <LinkButton aria-expanded={map} onClick={() => setMap(!map)}>
          {map ? "put the map away" : "on a map"}
        </LinkButton>
      </div>
      {map && <WorldMap site={site} onSite={onSite} />}
      {text !== null && (
        <ul
          id={`${id}-found`}
          className="absolute right-0 z-10 m-0 max-h-[190px] w-[250px] list-none overflow-y-auto rounded-[5px] border border-edge bg-field p-1"
        >
          {found.map(([label, item]) => (
            <li key={`${label} ${item.latitude_deg}`}>
              <button
                type="button"
                className="min-h-[28px] w-full cursor-pointer border-0 bg-transparent px-2 text-left text-ink hover:bg-water-soft"
                onClick={() => {
                  onSite(item);
                  setText(null);
                }}
              >
                {label}
              </button>
            </li>
          ))}
          {asked.length >= FROM_LETTERS && towns.isFetching && <li className="p-2 text-muted">Looking …</li>}
          {asked.length >= FROM_LETTERS && towns.data && found.length === 0 && (
            <li className="p-2 text-muted">
              No town of 5,000 begins so. Take one near, or find her water on the map.
            </li>
          )}
        </ul>
      )}
    </div>
  );
}

const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];

/** The middle of a month, this year's or the next one's to come. */
export function monthDate(month: number, today = new Date()): string {
  const year = today.getFullYear() + (month < today.getMonth() ? 1 : 0);
  return `${year}-${String(month + 1).padStart(2, "0")}-15`;
}

/** Midsummer of the place: a boat is not asked about in November because it is November. */
export const summerOf = (site: Site | undefined) => monthDate((site?.latitude_deg ?? 0) < 0 ? 11 : 5);

export function When({ date, onDate }: { date: Known["date"] | undefined; onDate: (date: string) => void }) {
  const id = useId();
  return (
    <div className="flex min-h-[32px] items-center justify-between gap-2">
      <label htmlFor={id}>When</label>
      <select
        id={id}
        className="h-[28px] w-[170px] rounded-[5px] border border-edge bg-field px-1 text-ink"
        value={Number(date?.slice(5, 7) ?? 6) - 1}
        onChange={(event) => onDate(monthDate(Number(event.target.value)))}
      >
        {MONTHS.map((name, month) => (
          <option key={name} value={month}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}
