"""Laws that the whole answer obeys, whatever the boat: from the document in to the miles out."""

from __future__ import annotations

import unittest
from datetime import UTC, datetime

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.dock import NEXT_MEMBER, days_to_full
from parhelion.balance.flow import SOC, run_days
from parhelion.balance.outlook import outlook_of
from parhelion.design import Hull, Water
from parhelion.design.hull import hull_speed_mps
from parhelion.design.hulltypes import TYPICAL, HullType, Model
from parhelion.drive.limits import DriveLimit, Limited
from parhelion.hull.air import air_resistance_n, frontal_area_m2
from parhelion.hull.calm import hulls_of
from parhelion.hull.demand import DemandCurve, demand_curve
from parhelion.hull.holtrop import calm_resistance
from parhelion.hull.resistance import _service, service_resistance
from parhelion.hull.runs import fit
from parhelion.rail.answers import answers_for

from tests.cases import HOURS, STEP_H, boat, cases

NOON = datetime(2027, 6, 13, 11, tzinfo=UTC)
SLACK_M = 5.0  # of a day's run: the solve's own tolerance


def runs(**changes) -> tuple[float, float]:
    """Day's run on sun, and with the bank [m]."""
    found = answers_for(boat(**changes), NOON)
    return found.days_run_sun.distance_m, found.days_run_bank.distance_m


class MonotoneTest(unittest.TestCase):
    """More of a good thing is never worse, over skies, dates, chemistries and sizes."""

    @settings(max_examples=12, deadline=None)
    @given(
        st.sampled_from(["clear", "hazy", "broken", "overcast", "rain"]),
        st.sampled_from(["lfp", "nmc", "agm", "flooded", "gel"]),
        st.integers(1, 12),
        st.floats(15, 600),
        st.floats(0, 1),
    )
    def test_sun_house_weight_and_charge(self, sky, chemistry, month, amp_hours, start):
        base = {
            "plan__sky": sky, "plan__date": f"2027-{month:02d}-15", "banks__0__chemistry": chemistry,
            "banks__0__capacity_ah": amp_hours, "plan__start_charge_frac": start, "banks__0__reserve_frac": None,
        }  # fmt: skip
        sun, bank = runs(**base)
        more_sun, more_bank = runs(**base, panels__0__count=6)
        self.assertGreaterEqual(more_sun, sun - SLACK_M)
        self.assertGreaterEqual(more_bank, bank - SLACK_M)
        house_sun, house_bank = runs(**base, loads__0__power_w=90)
        self.assertLessEqual(house_sun, sun + SLACK_M)
        self.assertLessEqual(house_bank, bank + SLACK_M)
        heavy_sun, heavy_bank = runs(**base, hull__displacement_kg=1500)
        self.assertLessEqual(heavy_sun, sun + SLACK_M)
        self.assertLessEqual(heavy_bank, bank + SLACK_M)
        fuller = runs(**{**base, "plan__start_charge_frac": min(start + 0.2, 1.0)})
        self.assertEqual(fuller[0], sun)  # on the sun alone the start charge is not asked
        self.assertGreaterEqual(fuller[1], bank - SLACK_M)

    def test_a_deeper_reserve_reaches_less_far(self):
        reached = [runs(banks__0__reserve_frac=share, plan__sky="overcast")[1] for share in (0.2, 0.4, 0.6)]
        self.assertEqual(reached, sorted(reached, reverse=True))


class SameThingTest(unittest.TestCase):
    """The same boat written down in another way gives the same answer."""

    def test_panels_in_two_groups_on_two_controllers(self):
        split = boat(
            panels=[
                {
                    "id": "a",
                    "place_id": "canopy",
                    "controller_id": "one",
                    "nameplate_w": 215,
                    "count": 3,
                    "mass_kg": 12.5,
                },
                {
                    "id": "b",
                    "place_id": "canopy",
                    "controller_id": "two",
                    "nameplate_w": 215,
                    "count": 1,
                    "mass_kg": 12.5,
                },
            ],
            controllers=[{"id": "one"}, {"id": "two"}],
        )
        whole = boat(controllers__0__current_limit_a=None)
        np.testing.assert_allclose(outlook_of(split).harvest.sun_w, outlook_of(whole).harvest.sun_w)

    def test_a_flat_panel_does_not_care_about_the_heading(self):
        here, there = (answers_for(boat(plan__heading_deg=h), NOON).days_run_sun for h in (0.0, 137.0))
        self.assertEqual(here, there)

    def test_two_motors_are_their_sum(self):
        one = {"rated_power_w": 3000, "overall_efficiency": 0.47, "idle_power_w": 12}
        two = [
            {"id": name, **{**one, "rated_power_w": 1500, "idle_power_w": 6}}
            for name in ("port", "starboard")
        ]
        np.testing.assert_allclose(demand_curve(boat(drives=two)).power_w, demand_curve(boat()).power_w)

    def test_a_spell_cut_in_two_is_the_same_spell(self):
        whole = [{"starts_at": "09:00", "ends_at": "15:00"}]
        cut = [{"starts_at": "09:00", "ends_at": "12:05"}, {"starts_at": "12:05", "ends_at": "15:00"}]
        overlapping = [{"starts_at": "09:00", "ends_at": "13:00"}, {"starts_at": "11:00", "ends_at": "15:00"}]
        found = [
            answers_for(boat(plan__spells=s), NOON).days_run_sun.distance_m for s in (whole, cut, overlapping)
        ]
        np.testing.assert_allclose(found, found[0], rtol=1e-6)

    def test_a_load_over_midnight_takes_its_energy(self):
        for clock in (None, "22:30", "04:00"):
            load = {"id": "l", "name": "l", "power_w": 120, "hours_per_day": 5, "from_clock": clock}
            self.assertAlmostEqual(outlook_of(boat(loads=[load])).house_w.sum() * STEP_H, 600)
            essential = outlook_of(boat(loads=[{**load, "essential": True}]))
            self.assertEqual(essential.house_rows_w[1].sum(), 0)

    def test_the_clock_of_the_place_moves_nothing_but_the_clock(self):
        # a quarter turn east: the same sun six hours earlier by UTC, so the useful hours hold the same energy
        east, west = (
            answers_for(
                boat(
                    site={"latitude_deg": 40, "longitude_deg": lon, "linke_turbidity": 3}, plan__spells=None
                ),
                NOON,
            )
            for lon in (0.0, 90.0)
        )
        self.assertAlmostEqual(east.days_run_sun.distance_m / west.days_run_sun.distance_m, 1, delta=0.03)


class ClosedFormTest(unittest.TestCase):
    def test_sustained_speed_on_a_cubic(self):
        """P = a V^3: the published V = (P/a)^(1/3), in knots and watts as the case has it."""
        case = cases("energy")["ans.sustained"]
        speed = np.linspace(0, 8, 241)
        flat = np.ones(241)
        curve = DemandCurve(
            speed,
            case["inputs"]["a"] * speed**3,
            1.5 * flat,
            0 * flat,
            0 * flat,
            0 * flat,
            0.0,
            DriveLimit(1e6, Limited.RATING),
            fit([], [], [], []),
        )
        found = float(curve.speed_at(case["inputs"]["P_net"]))
        self.assertAlmostEqual(found, case["expected"]["V"], places=9)
        self.assertAlmostEqual(
            float(curve.speed_at(case["inputs"]["P_net"], 1.0)), found * 1.5 ** (1 / 3), places=9
        )

    def test_service_resistance_is_margin_times_calm_water_and_air(self):
        design = boat(hull__displacement_kg=1500, site__water="salt")
        at = np.array([1.0, 2.5])
        one = calm_resistance(
            hulls_of(design.hull, design.displacement_kg, design.site.water).one, at, 1025.0, 1.18831e-6
        ).total_n
        air = air_resistance_n(
            at, frontal_area_m2(HullType.LAUNCH, 6.7, 1.62), TYPICAL[HullType.LAUNCH].air_drag_cd
        )
        friction = 0.075 / (np.log10(at * 6.7 / 1.18831e-6) - 2) ** 2
        skeg = 0.5 * 1025.0 * at**2 * 0.020 * 6.7**2 * (1.5 * friction + 0.0004)
        np.testing.assert_allclose(service_resistance(design, at).total_n, 1.35 * (one + skeg + air))
        bare = design.changed(hull=design.hull.model_copy(update={"appendage_area_m2": 0.0}))
        np.testing.assert_allclose(service_resistance(bare, at).total_n, 1.35 * (one + air))

    def test_lighter_is_never_slower_below_planing(self):
        """Over all types, sizes, loads and speeds to well over hull speed: watts never fall with mass."""
        for kind, form in TYPICAL.items():
            for size in (0.7, 1.0, 1.4):
                length, beam = form.length_m * size, form.beam_m * size
                hull = Hull(type=kind, waterline_length_m=length, beam_m=beam)
                loads = form.displacement_kg * size**3 * np.array([0.3, 0.45, 0.6, 0.8, 1, 1.25, 1.6, 2, 2.5])
                speed = np.arange(0.5, 1.4 * hull_speed_mps(length), 0.1)
                area = frontal_area_m2(kind, length, beam)
                asked = [_service(hull, load, Water.SALT, speed, area)[0] for load in loads]
                for load, light, heavy in zip(loads, asked, asked[1:], strict=False):
                    volume_froude = speed / np.sqrt(9.81 * (load / 1025 / form.hulls) ** (1 / 3))
                    displacing = volume_froude < 1.6 if form.model is Model.PLANING else speed > 0
                    with self.subTest(kind=kind, size=size, load=round(load)):
                        self.assertLess(float(((light - heavy) / heavy)[displacing].max(initial=-1)), 0.005)

    def test_a_light_slim_skiff_asks_less_than_a_laden_one(self):
        hull = Hull(type=HullType.SKIFF, waterline_length_m=4.6, beam_m=0.7)
        slow = np.array([3 * 0.514444])
        asked = [float(_service(hull, kg, Water.FRESH, slow, 0.5)[0][0]) for kg in (80, 139, 200, 300)]
        self.assertEqual(asked, sorted(asked))
        self.assertLess(asked[-1] / asked[0], 2.5)

    def test_hull_speed_is_the_wave_as_long_as_the_waterline(self):
        length = 6.7
        wave = 2 * np.pi * hull_speed_mps(length) ** 2 / 9.81  # deep-water wavelength at that speed
        self.assertAlmostEqual(wave, length)
        self.assertAlmostEqual(hull_speed_mps(length) / 0.514444 / np.sqrt(length / 0.3048), 1.34, delta=0.01)

    def test_refill_is_the_days_run_one_after_another(self):
        """Day by day through the whole-day kernel, with the members a later day is said to take."""
        outlook = outlook_of(boat(plan__sky="overcast"))
        sun = np.ascontiguousarray(outlook.harvest.by_bank_w)
        waits = days_to_full(sun, outlook.house_rows_w, 0.5, 0.5, 0, HOURS, outlook.aboard)
        for member in (0, 57, 200):
            soc, days = 0.5, 0.0
            while days < 30:
                row = (member + int(days) * NEXT_MEMBER) % len(sun)
                record = run_days(
                    sun[row : row + 1], outlook.house_rows_w, np.zeros(144), np.array([soc]), np.array([soc]),
                    HOURS, outlook.aboard,
                )[0]  # fmt: skip
                reached = np.flatnonzero(record[:, SOC] >= outlook.store.full)
                if reached.size:
                    days += (reached[0] + 0.5) / 144
                    break
                soc, days = record[-1, SOC], days + 1
            self.assertAlmostEqual(waits[member], days, delta=0.5 / 144 + 1e-9)
