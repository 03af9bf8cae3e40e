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
});
