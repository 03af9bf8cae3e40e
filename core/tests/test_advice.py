"""Each finding once where it fires and once where it is silent."""

from __future__ import annotations

import unittest
from pathlib import Path

from parhelion.formats.plain import told
from parhelion.stations.registry import warning_counts

from tests.cases import boat, findings_of
from tests.test_runs import runs

METHODS = Path(__file__).resolve().parents[2] / "docs" / "methods"
SHORE = {"id": "s", "name": "Shore", "kind": "shore", "rated_power_w": 600}
WIND = {"id": "w", "name": "Wind", "kind": "wind", "rated_power_w": 400}

HULL = {  # fires with, silent with
    "half_a_knot_less": ({}, {"plan__speed_mps": 0.4}),
    "formula_says": ({}, {"plan__speed_mps": 3.6, "drives__0__rated_power_w": 30000}),
    "beyond_drive": ({"plan__speed_mps": 3.6}, {}),
    "near_hull_speed": ({"plan__speed_mps": 3.1}, {}),
    "outside_model": (
        {},
        {"hull__beam_m": 1.2, "hull__displacement_kg": 1500, "hull__prismatic_coefficient": 0.6},
    ),
    "runs_contradict": ({"runs": runs(4, spread=0.5)}, {"runs": runs(4)}),
    "one_way_runs": ({"runs": runs(2, both=False)}, {"runs": runs(2)}),
    "heavy_for_length": ({"hull__displacement_kg": 9500}, {}),
}
PROPELLER = {"diameter_m": 0.33, "pitch_m": 0.24, "blades": 3, "depth_m": 0.34, "clearance_m": 0.08}
MOTOR = {"kv_rpm_per_v": 96, "no_load_current_a": 4.5, "current_limit_a": 150}
DRIVE = {"id": "d", "rated_power_w": 3000, "propeller": PROPELLER, "motor": MOTOR, "gear_ratio": 2}


def drive(**changes) -> dict:
    """The launch with a drive whose parts are known; `propeller` and `motor` are changed entry by entry."""
    made = {**DRIVE, **{k: v for k, v in changes.items() if k not in ("propeller", "motor")}}
    for part in ("propeller", "motor"):
        if changes.get(part) is not None:
            made[part] = {**DRIVE[part], **changes[part]}
    return {"drives": [made]}


THRUST = {"id": "t", "rating": "thrust", "static_thrust_n": 240, "full_thrust_current_a": 30}
HULL |= {
    "labours": (drive(motor={"kv_rpm_per_v": 150}), drive()),
    "overspeeds": (drive(motor={"kv_rpm_per_v": 60}), drive()),
    "over_current": ({**drive(motor={"current_limit_a": 20}), "plan__speed_mps": 2.4}, drive()),
    "runs_hot": ({**drive(motor={"continuous_power_w": 200})}, drive(motor={"continuous_power_w": 2000})),
    "ventilates": ({**drive(propeller={"depth_m": 0.18}), "plan__wave_height_m": 0.4}, drive()),
    "close_to_hull": (drive(propeller={"clearance_m": 0.02}), drive()),
    "better_match": (drive(propeller={"pitch_m": 0.18}), {}),
    "outside_series": (drive(propeller={"pitch_m": 0.60}), drive()),
    "estimated_motor": (drive(), {}),
    "idling_along": ({"drives": [{"id": "d", "rated_power_w": 40000}]}, {"drives": [{"id": "d", "rated_power_w": 900}]}),
    "held_below_label": (drive(motor={"current_limit_a": 40}), drive()),
    "motor_volts": ({"drives": [{**THRUST, "full_thrust_v": 12}]}, {"drives": [{**THRUST, "full_thrust_v": 24}]}),
    "optimistic_label": ({"drives": [THRUST]}, {"drives": [{**THRUST, "full_thrust_current_a": 60}]}),
    "implausible_run": (
        {"runs": [{"id": "r", "speed_mps": 2, "power_w": 100_000}]}, {"runs": runs(2)},
    ),
    "one_more_run": ({}, None),
    "last_knot": ({"plan__speed_mps": 2.75}, {}),
    "parts_disagree": ({"loading": {"boat_kg": 500}}, {"loading": {"boat_kg": 1121}}),
    "steep_waves": ({"plan__wave_height_m": 1.2}, {"plan__wave_height_m": 0.3}),
    "way_home": ({}, None),
    "strongest_head_wind": ({}, None),
}  # fmt: skip
BANK_OLD = {"id": "bank", "chemistry": "lfp", "unit_v": 25.6, "unit_ah": 280}


def bank(**changes) -> dict:
    return {"banks": [{**BANK_OLD, **changes}]}


HOUSE = {"id": "house", "unit_v": 12.8, "unit_ah": 60}
JOINED = {"id": "l", "from_bank_id": "bank", "to_bank_id": "house", "limit_w": 500}
BANK = {
    "no_bank": ({"banks": []}, {}),
    "usable_is_less": (bank(chemistry="agm", unit_v=24), {"banks": []}),
    "claims_disagree": (bank(unit_v=12.8, series=2, claimed_ah=560), bank(claimed_ah=280)),
    "mixed_units": (bank(unit_v=12.8, series=2, smallest_unit_ah=200), bank()),
    "odd_cells": (bank(unit_v=14.2), bank()),
    "cold_lithium": (bank(temperature_c=-3), bank(temperature_c=15)),
    "hot_lithium": (bank(temperature_c=47), bank(temperature_c=47, chemistry="agm", unit_v=24)),
    "house_goes_dark": (
        {**bank(unit_ah=20), "loads__0__power_w": 400, "plan__sky": "rain"}, {"plan__start_charge_frac": 1.0},
    ),
    "unjoined_banks": ({"banks": [BANK_OLD, HOUSE]}, {"banks": [BANK_OLD, HOUSE], "links": [JOINED]}),
    "feeds_the_motor": (bank(unit_ah=60), {"banks": []}),
    "takes_the_panels": (bank(charge_limit_a=10), {"banks": []}),
    "reserve_kept": (bank(reserve_frac=0.12), bank()),
    "worn": (bank(cycles_used=5000), bank()),
    "too_deep": (
        {**bank(unit_ah=40, usable_depth_frac=0.95, reserve_frac=0.1), "plan__speed_mps": 2.4,
         "plan__start_charge_frac": 1.0, "plan__sky": "rain"}, bank(),
    ),
    "volts_are_blind": (bank(), bank(chemistry="flooded", unit_v=24)),
    "trims_by_the_stern": (bank(at={"x_m": 0, "y_m": -3, "z_m": 0}), bank(at={"x_m": 0, "y_m": 0, "z_m": 0})),
    "high_volts": (bank(unit_v=128), bank()),
    "unprotected": (bank(management=False), bank()),
    "cobalt_fire": (bank(chemistry="nmc", unit_v=25.5), bank()),
    "fuse_near": (bank(fuse_distance_m=1.5), {"banks": []}),
    "unequal_volts": (bank(parallel=2), bank()),
    "gas": (bank(chemistry="flooded", unit_v=24), bank()),
    "stored_full": (bank(), bank(chemistry="flooded", unit_v=24)),
}  # fmt: skip
DAY = {
    "home_with": ({}, {"plan__speed_mps": 2.8, "plan__start_charge_frac": 0.3}),
    "stops_at_reserve": ({"plan__speed_mps": 2.8, "plan__start_charge_frac": 0.4}, {}),
    "goes_to_waste": ({"plan__start_charge_frac": 1.0, "plan__speed_mps": 1.0}, {"plan__speed_mps": 2.4}),
    "could_go_faster": ({"plan__speed_mps": 1.2}, {"plan__speed_mps": 2.6}),
    "grey_day": ({}, {"plan__sky": "overcast"}),
    "house_heavy": ({"loads__0__power_w": 150, "loads__0__hours_per_day": 24}, {}),
    "controller_clips": ({"controllers__0__current_limit_a": 12}, {}),
    "cold_lithium": ({"plan__water_temperature_c": 0}, {"plan__water_temperature_c": 15}),
    "ice": ({"site__latitude_deg": 64, "plan__date": "2027-01-20"}, {}),
    "what_would_tell": ({}, {"banks": []}),
    "hot_lithium": (bank(temperature_c=43), bank(temperature_c=38)),
    "stream_runs": ({"plan__current_mps": -0.5}, {}),
    "no_sun": ({"site__latitude_deg": 80, "plan__date": "2027-12-21"}, {}),
    "kept_not_counted": ({"banks": [{**BANK_OLD, "id": f"b{n}"} for n in range(3)]}, {}),
    "no_harvest": ({"panels__0__series": 40}, {}),
    "charging_day": ({"plan__spells": [], "plan__state": "dock"}, {}),
    "sun_share": ({"sources": [WIND]}, {}),
    "turning_blades": ({"sources": [WIND]}, {"sources": [SHORE]}),
    "generator_runs": ({"sources": [{**SHORE, "kind": "generator"}]}, {"sources": [WIND]}),
    "shore_charges": ({"sources": [SHORE]}, {"sources": [WIND]}),
    "no_bank_to_charge": ({"sources": [SHORE], "banks": []}, {"sources": [SHORE]}),
    "unshaded": ({}, {"panels": []}),
    "live_wires": ({}, {"panels": [], "banks": []}),
    "beyond_drive": ({"plan__speed_mps": 3.6}, {}),
    "reserve_homeward": (
        {"plan__speed_mps": 1.85, "plan__start_charge_frac": 0.33},
        {"plan__start_charge_frac": 0.9},
    ),
}
AT = {"x_m": 0, "y_m": -0.5, "z_m": 2.1}
POLE = {
    "id": "pole", "name": "Pole", "radius_m": 0.12,
    "foot": {"x_m": 0.2, "y_m": 0.9, "z_m": 0}, "tip": {"x_m": 0.2, "y_m": 0.9, "z_m": 5},
}  # fmt: skip


def canopy(**changes) -> dict:
    return {f"places__0__{key}": value for key, value in {"at": AT, **changes}.items()}


TWO_PLACES = [
    {"id": "canopy", "name": "Canopy", "at": AT, "width_m": 1.8, "length_m": 3.4},
    {"id": "top", "name": "Cabin top", "at": {**AT, "x_m": 0.5}, "width_m": 1.2, "length_m": 1.8},
]
TOP = {"id": "top-panels", "place_id": "top", "controller_id": "canopy-controller", "nameplate_w": 200}
THROUGH = {"foot": {"x_m": 0.4, "y_m": -0.6, "z_m": 0}, "tip": {"x_m": 0.4, "y_m": -0.6, "z_m": 5}}
SHEET = {
    "panels__0__open_circuit_v": 25.0, "panels__0__best_v": 20.5, "panels__0__best_a": 10.49,
    "panels__0__short_circuit_a": 11.1, "panels__0__cells_across": 4, "panels__0__cells_along": 9,
}  # fmt: skip
WALL = {
    "site__skyline": [
        {"id": "w", "name": "Wall", "from_deg": 100, "to_deg": 200, "height_m": 30, "distance_m": 20}
    ]
}
LOW = {"site__latitude_deg": 10.0}
ARRAY = {
    "shade_costs": ({**canopy(), "obstacles": [POLE]}, canopy()),
    "adds_up": ({}, None),
    "no_position": ({"obstacles": [POLE]}, {**canopy(), "obstacles": [POLE]}),
    "top_weight": (canopy(at={**AT, "z_m": 9}), canopy(at={**AT, "z_m": 0.8})),
    "gust_load": (canopy(tilt_deg=40), canopy()),
    "spar_through_panel": (
        {**canopy(), "obstacles": [{**POLE, **THROUGH}]},
        {**canopy(), "obstacles": [{**POLE, "radius_m": 0.02}]},
    ),
    "beyond_hinge": (canopy(tilt_deg=40, tilt_most_deg=30), canopy(tilt_deg=20, tilt_most_deg=30)),
    "doubtful_datasheet": (SHEET | {"panels__0__open_circuit_v": 20.0}, SHEET),
    "claimed": ({"claimed_w": 1000}, {"claimed_w": 860}),
    "same_name": ({"places": [{**TWO_PLACES[0], "name": "cabin top"}, TWO_PLACES[1]]}, canopy()),
    "skyline_hides": ({**canopy(), **WALL, "plan__state": "dock"}, {**canopy(), **WALL}),
    "uneven_shade": ({**canopy(), "obstacles": [{**POLE, "radius_m": 0.3}]}, canopy()),
    "stowed": (canopy(stands={"under_way": {"how": "covered"}}), canopy()),
    "gives_shade": (LOW | canopy(kind="canopy"), LOW | canopy(kind="deck")),
    "flexible_life": (
        {"panels__0__build": "flexible"},
        {"panels__0__build": "flexible", "panels__0__covered": True},
    ),
    "lists": (canopy(at={**AT, "x_m": 2.5}), canopy()),
    "does_not_fit": (canopy(width_m=0.7, length_m=0.9), canopy(width_m=1.9, length_m=3.6)),
    "overlaps": ({"places": TWO_PLACES, "panels": [{**TOP, "id": "a", "place_id": "canopy"}, TOP]}, canopy()),
    "outboard": (canopy(at={**AT, "x_m": 2.5}), canopy()),
    "live_panels": ({}, {"panels": []}),
}
YEAR = {
    "cold_months": (bank(), bank(temperature_c=18)),
    "ice_months": ({"site__latitude_deg": 64}, {"site__latitude_deg": 40}),
    "impossible_sun": (
        {"site__climate": {"known_by": "sun_hours", "sun_hours": [9.0] * 12}}, {"site__climate": {"word": "inland"}},
    ),
    "usual_climate": ({}, {"site__climate": {"word": "inland"}}),
}  # fmt: skip


class FindingsTest(unittest.TestCase):
    def check(self, table, station):
        for name, (loud, quiet) in table.items():
            with self.subTest(name):
                found = {finding.id: finding for finding in findings_of(station, boat(**loud))}
                self.assertIn(name, found)
                finding = found[name]
                text = f"{told(finding.title)} {told(finding.detail)}"
                self.assertNotIn("{", text)
                self.assertNotIn("nan", text)
                self.assertTrue(finding.why.method and finding.why.source)
                self.assertTrue((METHODS / f"{finding.why.doc}.md").is_file(), finding.why.doc)
                if quiet is not None:  # None: it always stands
                    self.assertNotIn(name, {item.id for item in findings_of(station, boat(**quiet))})

    def test_hull(self):
        self.check(HULL, "hull")

    def test_bank(self):
        self.check(BANK, "bank")

    def test_array(self):
        self.check(ARRAY, "array")

    def test_wrong_sums_are_named_for_what_they_are(self):
        for claim, words in (
            ({"claimed_ah": 560}, "in series"), ({"claimed_wh": 14336}, "counts the series twice"),
            ({"claimed_wh": 6451}, "usable, not what it holds"), ({"claimed_wh": 5000}, "not what the units make"),
        ):  # fmt: skip
            told_of = findings_of("bank", boat(**bank(unit_v=12.8, series=2, **claim)))
            found = next(item for item in told_of if item.id == "claims_disagree")
            self.assertIn(words, told(found.title))
        lead = next(
            f
            for f in findings_of("bank", boat(**bank(chemistry="agm", unit_v=24)))
            if f.id == "usable_is_less"
        )
        self.assertIn("lead bank", told(lead.title))
        deadly = next(f for f in findings_of("bank", boat(**bank(unit_v=128))) if f.id == "high_volts")
        self.assertIn("kill", told(deadly.title))
        quick = next(f for f in findings_of("bank", boat(**bank(unit_ah=60))) if f.id == "feeds_the_motor")
        self.assertEqual((quick.level, "C asked of a 1C bank" in told(quick.title)), ("warn", True))

    def test_the_course_line_counts_what_the_stations_show(self):
        design = boat(**bank(unit_ah=60))
        counts = warning_counts(design)
        self.assertEqual(
            list(counts),
            ["wish", "hull", "bank", "array", "strings", "day", "year", "passage", "fitout", "log"],
        )
        for key, count in counts.items():
            self.assertEqual(sum(item.level == "warn" for item in findings_of(key, design)), count, key)

    def test_day(self):
        self.check(DAY, "day")

    def test_year(self):
        self.check(YEAR, "year")
        for latitude, berth, words in ((53, "below", "Slow to charge"), (64, "deck", "Too cold to charge")):
            found = findings_of("year", boat(**bank(berth=berth), site__latitude_deg=latitude))
            self.assertIn(words, told(next(f for f in found if f.id == "cold_months").title))

    def test_whose_curve_it_is(self):
        for count, start in ((0, "No runs"), (2, "2 of your own"), (4, "Your runs set")):
            finding = next(f for f in findings_of("hull", boat(runs=runs(count))) if f.id == "curve_source")
            self.assertTrue(told(finding.title).startswith(start))
            self.assertEqual(finding.level == "good", count == 4)

    def test_cautions_of_harm_always_stand_and_come_last(self):
        for station, name in (("hull", "strongest_head_wind"), ("day", "live_wires")):
            last = findings_of(station, boat())[-1]
            self.assertEqual((last.caution, last.id), (True, name))
        high = next(f for f in findings_of("day", boat(banks__0__nominal_v=96)) if f.id == "live_wires")
        self.assertEqual(high.level, "warn")
