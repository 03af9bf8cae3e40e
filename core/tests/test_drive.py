"""Motor, gear and propeller: published and analytic cases, closed forms, a brute-force oracle, and laws."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.outlook import outlook_of
from parhelion.design import Drive, Motor, Propeller
from parhelion.drive import trolling
from parhelion.drive.chain import PROPELLER_IN_SERVICE, battery_w, chain_of, surroundings_of
from parhelion.drive.limits import Limited
from parhelion.drive.match import best_match, working
from parhelion.drive.motor import MotorConstants, at_work, constants_of, usual_efficiency, usual_input_w
from parhelion.drive.propeller import Screw, least_area_ratio, open_water, turning_for
from parhelion.drive.pull import most_pull_n
from parhelion.drive.ventilation import mean_thrust_left, thrust_left, tip_depth_m
from parhelion.hull.demand import demand_curve
from parhelion.stations.hull.match import match_picture
from parhelion.units import N_PER_POUND_FORCE
from scipy.optimize import brentq

from tests.cases import boat, cases

HULL = cases("hull")
PROPELLER = {"diameter_m": 0.33, "pitch_m": 0.24, "blades": 3, "depth_m": 0.34}
MOTOR = {"kv_rpm_per_v": 96, "no_load_current_a": 4.5, "current_limit_a": 150}
KNOWN = {"overall_efficiency": None, "propeller": PROPELLER, "gear_ratio": 2, "motor": MOTOR}


def driven(**changes):
    """The launch with a drive whose parts are known; `changes` replace entries of the drive."""
    drive = {"id": "drive", "rated_power_w": 3000, "idle_power_w": 12, **KNOWN, **changes}
    return boat(drives=[drive])


class PropellerTest(unittest.TestCase):
    def test_the_series_and_the_published_propeller(self):
        for name, case in HULL.items():
            if name.startswith(("P01", "P02", "P03", "P07", "P08", "P10")):
                i = case["inputs"]
                curves = open_water(Screw(i["Z"], i["AE_A0"], i["PD"]), i.get("dCD", 0.0))
                found = {"KT": curves.thrust_coefficient(i["J"]), "KQ": curves.torque_coefficient(i["J"])}
                for key, expected in case["expected"].items():
                    ratio = float(found[key]) / expected["value"]
                    self.assertAlmostEqual(ratio, 1, delta=expected["rel_tol"], msg=name)

    def test_the_working_point(self):
        case = HULL["P15-operate"]
        i, expected = case["inputs"], case["expected"]
        turning = turning_for(Screw(i["Z"], i["AE"], i["PD"]), i["D"], i["T_N"], i["VA"], i["rho"])
        found = {
            "rpm": 60 * turning.turns_per_s, "J": turning.advance, "Q": turning.torque_nm,
            "P": turning.power_w, "eta": turning.efficiency,
        }  # fmt: skip
        for key, value in found.items():
            self.assertAlmostEqual(float(value) / expected[key]["value"], 1, delta=expected[key]["rel_tol"])

    def test_blade_area_after_keller(self):
        i = HULL["P11-keller"]["inputs"]
        found = least_area_ratio(i["T_N"], i["D"], i["Z"], i["p0_pv"], i["k"])
        self.assertAlmostEqual(found, HULL["P11-keller"]["expected"]["AE_A0"]["value"], delta=0.0005)

    @settings(max_examples=40, deadline=None)
    @given(
        st.integers(2, 6), st.floats(0.5, 1.4), st.floats(0.15, 0.6), st.floats(20, 900), st.floats(0.5, 4)
    )
    def test_no_screw_beats_its_disc_and_the_thrust_is_what_was_asked(
        self, blades, pitch, diameter, thrust, speed
    ):
        screw = Screw(blades, 0.5, pitch)
        turning = turning_for(screw, diameter, thrust, speed, 1000.0)
        curves = open_water(screw)
        given_n = float(
            curves.thrust_coefficient(turning.advance) * 1000 * turning.turns_per_s**2 * diameter**4
        )
        self.assertAlmostEqual(given_n / thrust, 1, delta=1e-9)
        area = np.pi * diameter**2 / 4
        ideal = float(trolling.disc_power_w(thrust, speed, area, 1000.0))
        self.assertGreater(float(turning.power_w), ideal)
        self.assertAlmostEqual(
            float(turning.advance), speed / float(turning.turns_per_s) / diameter, delta=0.004
        )

    def test_bigger_and_slower_wins(self):
        """A yacht at 4 kn: some .41, .47, .52, .56 overall for .20 to .40 m, the pitch chosen for each."""
        for diameter, stated in ((0.20, 0.41), (0.25, 0.47), (0.30, 0.52), (0.40, 0.56)):
            best = max(
                float(turning_for(Screw(3, 0.45, pitch), diameter, 190.0, 2.06, 1025.0).efficiency)
                for pitch in np.linspace(0.5, 1.4, 19)
            )
            self.assertAlmostEqual(best * PROPELLER_IN_SERVICE * usual_efficiency(0.3), stated, delta=0.03)

    def test_air_drawn_in_a_chop(self):
        self.assertEqual(thrust_left(1.4), 1.0)
        self.assertLess(thrust_left(0.5), thrust_left(1.0))
        shallow = Propeller(diameter_m=0.3, pitch_m=0.2, depth_m=0.2)
        losses = [mean_thrust_left(shallow, height) for height in (0.0, 0.2, 0.5)]
        self.assertEqual(losses, sorted(losses, reverse=True))
        self.assertAlmostEqual(tip_depth_m(shallow, 0.2), 0.2 - 0.15 - 0.1)
        self.assertEqual(mean_thrust_left(Propeller(diameter_m=0.3, pitch_m=0.2), 1.0), 1.0)


class MotorTest(unittest.TestCase):
    def test_the_equivalent_circuit(self):
        i, expected = HULL["P17-motor"]["inputs"], HULL["P17-motor"]["expected"]
        held = MotorConstants(
            60 / (2 * np.pi * i["kv"]), i["R"], i["hyst"], i["eddy"], i["p_fix"], i["r_ctrl"], i["r_cable"],
            i["v_batt"],
        )  # fmt: skip
        point = at_work(held, i["Q"], i["omega"])
        found = {
            "I": point.current_a, "U": point.volts, "I_batt": point.battery_a, "P_batt": point.battery_w,
            "eta_motor": point.motor_efficiency, "eta": point.efficiency,
        }  # fmt: skip
        for key, value in found.items():
            self.assertAlmostEqual(float(value) / expected[key]["value"], 1, delta=expected[key]["rel_tol"])

    def test_constants_from_a_no_load_run_turn_as_fast_as_it_did(self):
        held = constants_of(Motor(no_load_rpm=2400, no_load_current_a=5, volts=48), 4000.0, 24.0)
        self.assertIn("Kv", held.estimated)
        free = at_work(held, 0.0, 2400 * 2 * np.pi / 60)
        self.assertAlmostEqual(float(free.current_a), 5.0, delta=0.05)
        self.assertAlmostEqual(float(free.volts), 48.0, delta=0.05)
        # at its rating the estimate loses about what such motors lose
        full = at_work(constants_of(Motor(no_load_rpm=2400, volts=48), 4000.0, 48.0), 4000 / 220, 220.0)
        self.assertTrue(0.82 < float(full.efficiency) < 0.93, full.efficiency)

    def test_a_large_motor_idling_along_pays_for_it(self):
        self.assertLess(usual_efficiency(0.03), usual_efficiency(0.1))
        self.assertLess(usual_efficiency(0.1), usual_efficiency(0.4))
        self.assertGreater(float(usual_input_w(300.0, 20_000.0)), 1.2 * float(usual_input_w(300.0, 1000.0)))
        small, large = (
            float(demand_curve(boat(drives=[{"id": "d", "rated_power_w": w}])).power_at(1.8))
            for w in (1500, 20_000)
        )
        self.assertGreater(large, 1.1 * small)


class TrollingTest(unittest.TestCase):
    def test_momentum_and_thrust_at_speed(self):
        i = HULL["P13-static-disc-power"]["inputs"]
        self.assertAlmostEqual(float(trolling.disc_power_w(i["T_N"], 0.0, i["A_m2"], i["rho"])), 100.0)
        i, expected = HULL["P14-trolling"]["inputs"], HULL["P14-trolling"]["expected"]
        still = i["static_lbf"] * N_PER_POUND_FORCE
        drive = Drive(id="t", rating="thrust", static_thrust_n=still,
                      propeller=Propeller(diameter_m=i["D"], pitch_m=0.15))  # fmt: skip
        area = trolling.disc_area_m2(drive)
        ideal = float(trolling.disc_power_w(still, 0.0, area, i["rho"]))
        upper = float(trolling.thrust_at_power_n(ideal, i["V"], area, i["rho"]))
        self.assertAlmostEqual(upper / expected["T_upper_N"]["value"], 1, delta=0.002)
        mean = float(trolling.available_thrust_n(drive, i["V"], i["rho"]))
        self.assertAlmostEqual(mean, (upper + expected["T_linear_N"]["value"]) / 2, delta=0.05)

    def test_the_labels_amps_come_first_and_steps_waste_the_rest(self):
        plain = Drive(id="t", rating="thrust", static_thrust_n=240)
        label = plain.model_copy(update={"full_thrust_current_a": 50.0, "full_thrust_v": 12.0})
        self.assertAlmostEqual(trolling.full_power_w(label, 1000.0), 600.0)
        self.assertAlmostEqual(float(trolling.battery_w(label, 240.0, 0.0, 1000.0)), 600.0, delta=0.5)
        stepped = label.model_copy(update={"stepped": True})
        half = [float(trolling.battery_w(d, 80.0, 0.6, 1000.0)) for d in (label, stepped)]
        self.assertGreater(half[1], 1.3 * half[0])

    def test_thrust_not_watts_ends_the_speed(self):
        weak = boat(
            drives=[{"id": "t", "rating": "thrust", "static_thrust_n": 150, "full_thrust_current_a": 45}]
        )
        curve = demand_curve(weak)
        self.assertEqual(curve.limit.by, Limited.THRUST)
        self.assertLess(curve.most_w, 45 * 12)


class ChainTest(unittest.TestCase):
    def test_the_links_multiply_to_the_whole(self):
        for drive in (
            KNOWN,
            {**KNOWN, "motor": None},
            {"overall_efficiency": None},
            {"overall_efficiency": 0.4},
        ):
            design = boat(drives=[{"id": "d", "rated_power_w": 3000, **drive}])
            made = chain_of(design.drives[0], 200.0, 2.0, 0.0, surroundings_of(design))
            product = np.prod([value for _, value in made.links], axis=0)
            self.assertAlmostEqual(float(product), 200.0 * 2.0 / float(made.battery_w), places=9)

    def test_two_motors_alike_share_the_thrust(self):
        one, two = driven(rated_power_w=1500), driven(rated_power_w=1500, count=2)
        alone = float(battery_w(one, 100.0, 2.0, 0.0))
        self.assertAlmostEqual(float(battery_w(two, 200.0, 2.0, 0.0)), 2 * alone, places=6)

    def test_the_limit_that_binds_is_named(self):
        self.assertEqual(demand_curve(driven()).limit.by, Limited.RATING)
        self.assertEqual(
            demand_curve(driven(motor={**MOTOR, "current_limit_a": 40})).limit.by, Limited.CURRENT
        )
        self.assertEqual(demand_curve(driven(motor={**MOTOR, "kv_rpm_per_v": 60})).limit.by, Limited.VOLTS)
        held = boat(banks__0__discharge_limit_a=30.0)
        self.assertEqual(demand_curve(held).limit.by, Limited.BANK)
        self.assertAlmostEqual(outlook_of(held).rated_w, 30 * 25.6)

    def test_the_pull_is_what_full_power_turns(self):
        design = driven()
        pull = most_pull_n(design, 1.0)
        turning = turning_for(Screw(3, 0.45, 0.24 / 0.33), 0.33, pull, 1.0, 999.1)
        shaft = float(turning.power_w) / PROPELLER_IN_SERVICE / 0.97
        self.assertAlmostEqual(shaft, 3000 / 1.125, delta=1.0)
        self.assertLess(most_pull_n(design, 1.0, 0.5), pull)


class MatchTest(unittest.TestCase):
    def test_no_pitch_or_gear_does_better_than_the_best(self):
        """A scan by hand, working point solved with a root finder, finds nothing that takes less."""
        design = driven()
        around = surroundings_of(design)
        drive = design.drives[0]
        found = best_match(drive, (110.0, 1.85), (480.0, 3.2), around)
        held = constants_of(drive.motor, 3000 / 1.125, 25.6)
        least = np.inf
        for ratio in np.linspace(0.5, 1.4, 19):
            curves = open_water(Screw(3, 0.45, float(ratio)))
            for gear in (1.0, 1.25, 1.5, 1.75, 2.0, 2.5, 3.0, 3.5, 4.0):
                points = []
                for thrust, speed in ((110.0, 1.85), (480.0, 3.2)):
                    turns = brentq(
                        lambda n, t=thrust, v=speed, curves=curves: float(curves.thrust_coefficient(v / n / 0.33)) * 999.1 * n**2 * 0.33**4 - t,
                        speed / 0.33 / curves.free_advance, 60.0,
                    )  # fmt: skip
                    torque = (
                        float(curves.torque_coefficient(speed / turns / 0.33)) * 999.1 * turns**2 * 0.33**5
                    )
                    geared = 1.0 if gear == 1 else 0.97
                    points.append(at_work(held, torque / 0.9 / geared / gear, 2 * np.pi * turns * gear))
                if all(p.current_a <= 150 and p.volts <= 25.6 for p in points):
                    least = min(least, float(points[0].battery_w))
        self.assertAlmostEqual(found.battery_w / least, 1, delta=0.002)

    def test_the_match_view_says_what_it_needs_and_what_it_finds(self):
        self.assertIn("diameter and pitch", match_picture(outlook_of(boat())).missing)
        bare = match_picture(outlook_of(driven(motor=None)))
        self.assertTrue(bare.rows[0].motor_a is None and bare.rows[0].propeller_rpm > 0)
        found = match_picture(outlook_of(driven()))
        self.assertLess(found.rows[-1].motor_a, 150)
        self.assertEqual(len(found.advance), len(found.efficiency))
        labouring = match_picture(outlook_of(driven(motor={**MOTOR, "kv_rpm_per_v": 150})))
        self.assertEqual(labouring.full_is, "labours")
        self.assertIn("labours", {item.id for item in labouring.findings})

    def test_along_the_curve_more_speed_turns_faster(self):
        design = driven()
        curve = demand_curve(design)
        speeds = curve.speed_mps[5:]
        made = working(design.drives[0], curve.thrust_power_w[5:] / speeds, speeds, surroundings_of(design))
        self.assertTrue(np.all(np.diff(made.turning.turns_per_s) > 0))
