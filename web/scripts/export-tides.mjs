// Writes the harmonic constants of tide stations for the core, once at set-up: node export-tides.mjs FILE.json.gz
// Stations whose licence forbids commercial use are left out; each keeps the words its source asks for.
import { writeFileSync } from "node:fs";
import { gzipSync } from "node:zlib";
import { stations, stationsById } from "@neaps/tide-database";

const LEAST_M = 0.002; // of an amplitude
const sources = [];
const sourceOf = (station) => {
  const { name, url } = station.source;
  const words = [name, station.license.type, station.license.url ?? url, station.disclaimers ?? ""];
  const key = JSON.stringify(words);
  let index = sources.findIndex((one) => JSON.stringify(one) === key);
  if (index < 0) index = sources.push(words) - 1;
  return index;
};
const round = (value, digits) => Number(value.toFixed(digits));
const placeOf = (station) => [station.region, station.country].filter(Boolean).join(", ");
const zeroOf = ({ datums, chart_datum }) =>
  datums?.MSL !== undefined && datums?.[chart_datum] !== undefined ? round(datums.MSL - datums[chart_datum], 3) : null;

const usable = stations.filter((one) => one.kind === "tide" && one.license.commercial_use);
const rows = [];
for (const station of usable) {
  const own = [station.id, station.name, placeOf(station), round(station.latitude, 4), round(station.longitude, 4)];
  const said = [...own, sourceOf(station), station.chart_datum ?? "mean level"];
  if (station.type === "reference") {
    const constants = (station.harmonic_constituents ?? [])
      .filter((one) => one.amplitude >= LEAST_M)
      .map((one) => [one.name, round(one.amplitude, 3), round(one.phase, 1)]);
    if (constants.length > 0) rows.push([...said, zeroOf(station), constants.map((c) => c.join(" ")).join(";")]);
  } else if (stationsById.get(station.offsets?.reference)?.license.commercial_use) {
    const { reference, time, height } = station.offsets;
    rows.push([...said, null, null, reference, time.high, time.low, round(height.high, 3), round(height.low, 3), height.type]);
  }
}
writeFileSync(process.argv[2], gzipSync(JSON.stringify({ sources, stations: rows }), { level: 9 }));
console.log(`${rows.length} tide stations of ${stations.length} are exported`);
