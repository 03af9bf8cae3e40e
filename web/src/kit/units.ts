/** The only display conversions: SI quantities into the units a person reads, and back. */
import type { Quantity, Sentence } from "../api/client";

export type SpeedUnit = "kn" | "km/h" | "mph";
export type MassUnit = "kg" | "lb";
export type LengthUnit = "m" | "ft";
export interface Units {
  speed: SpeedUnit;
  mass: MassUnit;
  length: LengthUnit;
  currency?: string; // of the boat's prices
}
export const USUAL_UNITS: Units = { speed: "kn", mass: "kg", length: "m" };

export type Kind = Quantity["quantity"];

const SPEED: Record<SpeedUnit, number> = { kn: 1852 / 3600, "km/h": 1 / 3.6, mph: 0.44704 };
const DISTANCE: Record<SpeedUnit, [string, number]> = {
  kn: ["nm", 1852],
  "km/h": ["km", 1000],
  mph: ["mi", 1609.344],
};
const MASS: Record<MassUnit, number> = { kg: 1, lb: 0.45359237 };
const LENGTH: Record<LengthUnit, number> = { m: 1, ft: 0.3048 };

/** The unit's sign, and how many SI units it holds. */
export function unitOf(kind: Kind, units: Units): [string, number] {
  switch (kind) {
    case "speed_mps":
      return [units.speed, SPEED[units.speed]];
    case "distance_m":
      return DISTANCE[units.speed];
    case "mass_kg":
      return [units.mass, MASS[units.mass]];
    case "length_m":
      return [units.length, LENGTH[units.length]];
    case "area_m2":
      return [`${units.length}²`, LENGTH[units.length] ** 2];
    case "force_n":
      return units.mass === "lb" ? ["lbf", 4.4482216] : ["N", 1];
    case "power_w":
      return ["W", 1];
    case "energy_wh":
      return ["Wh", 1];
    case "fraction":
      return ["%", 0.01];
    case "angle_deg":
      return ["°", 1];
    case "temperature_c":
      return ["°C", 1];
    case "capacity_ah":
      return ["Ah", 1];
    case "duration_h":
      return ["h", 1];
    case "days":
      return ["days", 1];
    case "voltage_v":
      return ["V", 1];
    case "current_a":
      return ["A", 1];
    case "rpm":
      return ["rpm", 1];
    case "years":
      return ["years", 1];
    case "money":
      return [units.currency ?? "coins", 1];
    default:
      return ["", 1];
  }
}

const FORMATS = new Map<number, Intl.NumberFormat>(); // by digits: making one takes longer than using it

function grouped(value: number, digits: number): string {
  const format =
    FORMATS.get(digits) ??
    new Intl.NumberFormat("en-GB", { minimumFractionDigits: digits, maximumFractionDigits: digits });
  FORMATS.set(digits, format);
  return format.format(value);
}

export function clockText(minutes: number): string {
  const whole = ((Math.round(minutes) % 1440) + 1440) % 1440;
  return `${String(Math.floor(whole / 60)).padStart(2, "0")}:${String(whole % 60).padStart(2, "0")}`;
}

/** Hours after a midnight as a time of day, the day named where it is not the first. */
export function hourText(hours: number): string {
  const day = Math.floor(hours / 24);
  return clockText(hours * 60) + (day > 0 ? ` +${day}` : "");
}

/** A quantity as its number and its unit, apart, for large numerals. */
export function split(quantity: Quantity, units: Units): [string, string] {
  if (typeof quantity.value === "string") return [quantity.value, ""];
  const value = quantity.value;
  const sign = quantity.signed && value >= 0 ? "+" : "";
  const [name, size] = unitOf(quantity.quantity, units);
  const [text, unit] = magnitude(quantity.quantity, value, value / size, name);
  return [sign + text.replace("-", "−"), unit];
}

function magnitude(kind: Kind, value: number, shown: number, unit: string): [string, string] {
  switch (kind) {
    case "clock_min":
      return [clockText(value), ""];
    case "duration_h": {
      const minutes = Math.round(Math.abs(value) * 60);
      const minus = value < 0 ? "-" : "";
      if (minutes < 60) return [`${minus}${minutes}`, "min"];
      return [`${minus}${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")}`, ""];
    }
    case "power_w":
      return Math.abs(value) >= 9999.5 ? [grouped(value / 1000, 1), "kW"] : [grouped(value, 0), "W"];
    case "energy_wh":
      if (Math.abs(value) < 999.5) return [grouped(value, 0), "Wh"];
      return [grouped(value / 1000, Math.abs(value) < 99_950 ? 1 : 0), "kWh"];
    case "ratio":
      return [`${grouped(value, 1)}×`, ""];
    case "speed_mps":
    case "days":
      return [grouped(shown, 1), unit];
    case "distance_m":
      return [grouped(shown, Math.abs(shown) < 99.95 ? 1 : 0), unit];
    case "voltage_v":
      return [grouped(shown, 1), unit];
    case "length_m":
    case "area_m2":
      return [grouped(shown, 2), unit];
    case "years":
      return [grouped(shown, 0), Math.round(shown) === 1 ? "year" : unit];
    default:
      return [grouped(shown, 0), unit];
  }
}

const joined = (number: string, unit: string) =>
  unit === "" || unit === "°" ? number + unit : `${number}\u00a0${unit}`;

export const shown = (quantity: Quantity, units: Units): string => joined(...split(quantity, units));

/** A sentence with its slots put into the person's units; of a span the unit is said once. */
export function told({ text, slots }: Sentence, units: Units): string {
  const spans = text.replace(/(from )?\{(\w+)\} to \{(\w+)\}/g, (whole, from = "", a: string, b: string) => {
    const [low, high] = [slots?.[a], slots?.[b]];
    if (!low || !high) return whole;
    const [[least, of], [most, unit]] = [split(low, units), split(high, units)];
    if (unit === "" || of !== unit) return whole;
    return from + (least === most && !from ? "" : `${least} to `) + joined(most, unit);
  });
  return spans.replace(/\{(\w+)\}/g, (_, name: string) => {
    const slot = slots?.[name];
    return slot ? shown(slot, units) : "";
  });
}

/** A field's text for an SI value: as many digits as are worth keeping. */
export function fieldText(value: number | null | undefined, kind: Kind, units: Units): string {
  if (value === null || value === undefined) return "";
  const [, size] = unitOf(kind, units);
  return String(
    Number(size === 1 || kind === "fraction" ? (value / size).toPrecision(7) : (value / size).toFixed(2)),
  );
}

/** What an empty field means, to as many digits of the person's unit as are worth showing. */
export function usualText(value: number | null | undefined, kind: Kind, units: Units): string {
  if (typeof value !== "number") return "";
  return String(Number((value / unitOf(kind, units)[1]).toPrecision(3)));
}

/** Units as people type them after a number, by what they measure, in SI units. */
const TYPED: Partial<Record<Kind, Record<string, number>>> = {
  mass_kg: { kg: 1, t: 1000, lb: 0.45359237, lbs: 0.45359237 },
  length_m: { m: 1, cm: 0.01, mm: 0.001, ft: 0.3048, "'": 0.3048, in: 0.0254, '"': 0.0254 },
  force_n: { n: 1, lb: 4.4482216, lbs: 4.4482216, lbf: 4.4482216, kg: 9.80665 },
  speed_mps: { kn: 1852 / 3600, kt: 1852 / 3600, "km/h": 1 / 3.6, kmh: 1 / 3.6, mph: 0.44704, "m/s": 1 },
  distance_m: { nm: 1852, km: 1000, mi: 1609.344, m: 1 },
  power_w: { w: 1, kw: 1000, hp: 745.7 },
  energy_wh: { wh: 1, kwh: 1000 },
  fraction: { "%": 0.01 },
  voltage_v: { v: 1 },
  current_a: { a: 1 },
  capacity_ah: { ah: 1 },
  duration_h: { h: 1, min: 1 / 60 },
  temperature_c: { c: 1, "°c": 1 },
  angle_deg: { "°": 1, deg: 1 },
};

/** A number with its own unit, such as 24 lb, or 5ft 6: in SI units, whatever the person's usual ones. */
function withUnit(text: string, kind: Kind): number | null {
  const feet = /^(\d+(?:\.\d+)?)(?:ft|')(\d+(?:\.\d+)?)(?:in|"|'')?$/i.exec(text);
  if (kind === "length_m" && feet) return Number(feet[1]) * 0.3048 + Number(feet[2]) * 0.0254;
  const found = /^(-?(?:\d+[.,]?\d*|[.,]\d+))([a-z°%'"/]+)$/i.exec(text);
  const size = found && TYPED[kind]?.[(found[2] ?? "").toLowerCase()];
  return found && size ? Number((found[1] ?? "").replace(",", ".")) * size : null;
}

/** The SI value of a field's text, or the reason it is none. */
export function parsed(text: string, kind: Kind, units: Units): { value: number } | { problem: string } {
  const signed = kind === "money" ? text.replace(/^[^\d.,-]+|[^\d.,]+$/g, "") || text : text;
  const trimmed = signed.trim().replaceAll("\u00a0", "").replaceAll(" ", "").replace("−", "-");
  if (trimmed === "") return { problem: "This needs a number, such as 3.5." };
  if (/^-?\d{1,3}(,\d{3})+(\.\d+)?$/.test(trimmed)) {
    const joined = trimmed.replaceAll(",", "");
    const pointed = trimmed.replace(",", ".");
    return { problem: `Is this ${joined} or ${pointed}? Write it without the comma.` };
  }
  const own = withUnit(trimmed, kind);
  if (own !== null) return { value: Number(own.toPrecision(12)) };
  const plain = /^-?\d*,\d+$/.test(trimmed) ? trimmed.replace(",", ".") : trimmed;
  if (!/^-?(\d+\.?\d*|\.\d+)(e-?\d+)?$/i.test(plain)) {
    const unit = unitOf(kind, units)[0];
    const wanted = kind === "count" ? "a whole number, such as 3" : "digits only, such as 3.5";
    return {
      problem: `“${text.trim()}” is not a number. Write ${wanted}${unit && `; the unit is ${unit}`}.`,
    };
  }
  const [, size] = unitOf(kind, units);
  return { value: Number((Number(plain) * size).toPrecision(12)) };
}

/** So many of a thing: 1 load, 3 loads. */
export const counted = (number: number, what: string) => `${number} ${what}${number === 1 ? "" : "s"}`;

export const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
