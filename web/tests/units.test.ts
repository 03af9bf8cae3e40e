import { describe, expect, it } from "vitest";
import {
  clockText,
  counted,
  fieldText,
  type Kind,
  parsed,
  shown,
  split,
  told,
  type Units,
  USUAL_UNITS,
  usualText,
} from "../src/kit/units";

const FEET: Units = { speed: "mph", mass: "lb", length: "ft" };
const say = (quantity: Kind, value: number, units = USUAL_UNITS, signed = false) =>
  shown({ quantity, value, signed }, units).replaceAll("\u00a0", " ");

describe("quantities in a person's units", () => {
  it.each<[Kind, number, string, string]>([
    ["speed_mps", 1852 / 3600, "1.0 kn", "1.2 mph"],
    ["distance_m", 18520, "10.0 nm", "11.5 mi"],
    ["mass_kg", 100, "100 kg", "220 lb"],
    ["length_m", 3.048, "3.05 m", "10.00 ft"],
    ["power_w", 12_345, "12.3 kW", "12.3 kW"],
    ["energy_wh", 1500, "1.5 kWh", "1.5 kWh"],
    ["fraction", 0.3, "30 %", "30 %"],
    ["duration_h", 1.5, "1 h 30", "1 h 30"],
    ["duration_h", 0.25, "15 min", "15 min"],
    ["angle_deg", 35, "35°", "35°"],
    ["money", 1234, "1,234 coins", "1,234 coins"],
  ])("%s of %d", (kind, value, usual, feet) => {
    expect(say(kind, value)).toBe(usual);
    expect(say(kind, value, FEET)).toBe(feet);
  });

  it("has a sign where a change is told, and a real minus", () => {
    expect(say("distance_m", 1852, USUAL_UNITS, true)).toBe("+1.0 nm");
    expect(say("distance_m", -1852, USUAL_UNITS, true)).toBe("−1.0 nm");
    expect(split({ quantity: "text", value: "bank size", signed: false }, USUAL_UNITS)).toEqual([
      "bank size",
      "",
    ]);
  });

  it("fills the slots of a sentence, each in its own unit", () => {
    const slots = { v: { quantity: "speed_mps" as const, value: 0.514444, signed: false } };
    expect(told({ text: "At {v} {none}.", slots }, USUAL_UNITS)).toBe("At 1.0\u00a0kn .");
  });

  it("says the unit of a span once, and a span of nothing as one", () => {
    const slot = (quantity: "fraction" | "power_w" | "clock_min" | "years", value: number) => ({
      quantity,
      value,
      signed: false,
    });
    const spans = (text: string, low: ReturnType<typeof slot>, high: ReturnType<typeof slot>) =>
      told({ text, slots: { low, high } }, USUAL_UNITS);
    expect(spans("{low} to {high} on 8 of 10", slot("fraction", 0.8), slot("fraction", 0.85))).toBe(
      "80 to 85\u00a0% on 8 of 10",
    );
    expect(spans("{low} to {high}", slot("fraction", 0.85), slot("fraction", 0.8513))).toBe("85\u00a0%");
    expect(spans("from {low} to {high}", slot("fraction", 0.85), slot("fraction", 0.8513))).toBe(
      "from 85 to 85\u00a0%",
    );
    expect(spans("{low} to {high}", slot("power_w", 900), slot("power_w", 12_000))).toBe(
      "900\u00a0W to 12.0\u00a0kW",
    );
    expect(spans("{low} to {high}", slot("clock_min", 60), slot("clock_min", 60))).toBe("01:00 to 01:00");
    expect(told({ text: "{low} to {none}", slots: { low: slot("years", 1) } }, USUAL_UNITS)).toBe(
      "1\u00a0year to ",
    );
  });

  it("reads clock minutes past midnight, and counts one as one", () => {
    expect([clockText(0), clockText(1439.6), clockText(-30), clockText(1500)]).toEqual([
      "00:00",
      "00:00",
      "23:30",
      "01:00",
    ]);
    expect([counted(1, "load"), counted(3, "load")]).toEqual(["1 load", "3 loads"]);
  });
});

describe("what is typed", () => {
  it.each(["3.5", " 3.5 ", "3,5", "+", "3.", ".5"])("reads %s or says why not", (text) => {
    const found = parsed(text, "length_m", USUAL_UNITS);
    if (text === "+") expect(found).toHaveProperty("problem");
    else expect(found).toHaveProperty("value");
  });

  it("comes back as it was entered, in every unit", () => {
    for (const units of [USUAL_UNITS, FEET])
      for (const kind of ["speed_mps", "mass_kg", "length_m", "power_w", "fraction", "angle_deg"] as const)
        for (const text of ["0.25", "3.6", "12", "1234.5"]) {
          const found = parsed(text, kind, units);
          expect("value" in found && Number(fieldText(found.value, kind, units))).toBeCloseTo(
            Number(text),
            2,
          );
        }
  });

  it("shows what is usual to three digits of the unit that is read", () => {
    expect([usualText(1261, "mass_kg", USUAL_UNITS), usualText(3740, "mass_kg", FEET)]).toEqual([
      "1260",
      "8250",
    ]);
    expect([usualText(0.9, "fraction", FEET), usualText(null, "mass_kg", FEET)]).toEqual(["90", ""]);
  });

  it("asks about a comma that may be two things", () => {
    expect(parsed("1,234", "power_w", USUAL_UNITS)).toEqual({
      problem: "Is this 1234 or 1.234? Write it without the comma.",
    });
  });

  it("names the unit and what would be accepted", () => {
    expect(parsed("a few", "mass_kg", FEET)).toEqual({
      problem: "“a few” is not a number. Write digits only, such as 3.5; the unit is lb.",
    });
    expect(parsed("", "count", USUAL_UNITS)).toEqual({ problem: "This needs a number, such as 3.5." });
  });

  it.each<[string, Kind, number]>([
    ["24 lb", "mass_kg", 10.8862],
    ["24lbs", "mass_kg", 10.8862],
    ["1,5 t", "mass_kg", 1500],
    ["55 lb", "force_n", 244.652],
    ["20 kg", "force_n", 196.133],
    ["5ft 6", "length_m", 1.6764],
    ["5'6\"", "length_m", 1.6764],
    ["16 ft", "length_m", 4.8768],
    ["450mm", "length_m", 0.45],
    ["4.2 kt", "speed_mps", 2.16067],
    ["10 km/h", "speed_mps", 2.77778],
    ["6 mph", "speed_mps", 2.68224],
    ["12 nm", "distance_m", 22224],
    ["3 mi", "distance_m", 4828.03],
    ["1.2 kW", "power_w", 1200],
    ["2 hp", "power_w", 1491.4],
    ["7,2 kWh", "energy_wh", 7200],
    ["55 %", "fraction", 0.55],
    ["13,2 V", "voltage_v", 13.2],
    ["90 min", "duration_h", 1.5],
    ["−4 °C", "temperature_c", -4],
    ["30°", "angle_deg", 30],
  ])("%s is read as it is written, whatever a person's own units", (text, kind, value) => {
    for (const units of [USUAL_UNITS, FEET]) {
      const found = parsed(text, kind, units);
      expect("value" in found && found.value).toBeCloseTo(value, 2);
    }
  });

  it.each<[string, Kind]>([
    ["24 lb", "length_m"],
    ["5 kn", "mass_kg"],
    ["3 V", "current_a"],
    ["5ft 6ft", "length_m"],
    ["1.2.3", "power_w"],
    ["--3", "power_w"],
    ["1e", "power_w"],
    ["kW", "power_w"],
  ])("%s is no %s", (text, kind) => {
    const found = parsed(text, kind, USUAL_UNITS);
    expect("problem" in found && found.problem).toContain(`“${text}” is not a number.`);
  });

  it("is money with its sign before or after it, in whatever currency", () => {
    const coins = { ...USUAL_UNITS, currency: "crowns" };
    for (const text of ["120", "crowns 120", "120 crowns", "$120", "120 €", "120,00"])
      expect(parsed(text, "money", coins)).toEqual({ value: 120 });
    expect(say("money", 1234.5, coins)).toBe("1,235 crowns");
    expect(parsed("cheap", "money", coins)).toHaveProperty("problem");
  });
});
