"""The steady solve and the run to the reserve against linear programming, and the sun against the almanac."""

from __future__ import annotations

import unittest
from datetime import date

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.steady import power_to_reserve, steady_power
from parhelion.bank.store import Store, energy_wh
from parhelion.design import Sky
from parhelion.formats.boat_file import read_boat, written
from parhelion.sun.daysteps import day_steps
from parhelion.sun.sky import clear_sky_index
from scipy.optimize import linprog

from tests.cases import HOURS, STEP_H, at_banks, boat, house_rows, motor_rows, one_bank
from tests.test_sun import HESPER

SKY = clear_sky_index(Sky.BROKEN, date(2027, 6, 13), 3)[1]
SUN = SKY * np.maximum(0, 1000 * np.sin(2 * np.pi * np.arange(144) / 144))
MOTORING = np.where((np.arange(144) > 20) & (np.arange(144) < 90), 1.0, 0.0)


def lossless(capacity_ah: float) -> Store:
    """A bank without losses or taper, so that a day is a linear programme."""
    return Store(capacity_ah, 24.0, 0.0, 1e-9, 1.0, 1e6, 1 - 1e-9, 0.3, 0.1, 0.99)


def programme(store: Store, house_w: float, start: float | None) -> float:
    """Largest constant motor watts by linear programming [W].

    Unknowns: the watts, then the stored energy at 145 edges. Each step stores at most what is left over (the
    rest is thrown away); the store stays between reserve (cut-out where no motor runs) and full; with no start given, the day closes on itself.
    """
    full = energy_wh(1.0, store)
    steps = 144 if start is None else int(np.flatnonzero(MOTORING)[-1]) + 1
    limits, most = [], []
    for t in range(steps):
        row = np.zeros(2 + 144)
        row[0], row[1 + t], row[2 + t] = MOTORING[t] * STEP_H, -1, 1
        limits.append(row)
        most.append((SUN[t] - house_w) * STEP_H)
    if start is None:
        row = np.zeros(2 + 144)
        row[1], row[145] = 1, -1
        limits.append(row)
        most.append(0.0)
    # essential house may draw below the reserve where no motor runs
    floors = [0.3, *np.where(MOTORING > 0, 0.3, 0.1)]
    bounds = [(0, 5000), *[(floor * full, full) for floor in floors]]
    if start is not None:
        bounds[1] = (start * full, start * full)
    found = linprog(np.eye(146)[0] * -1, A_ub=np.array(limits), b_ub=np.array(most), bounds=bounds)
    return float(found.x[0]) if found.success else -1.0


class LinearProgrammeTest(unittest.TestCase):
    """An oracle that knows nothing of bisection, fixed points or steps in time."""

    def test_steady_watts_with_every_bound_in_play(self):
        for capacity in (20, 60, 150, 600):
            for house in (0.0, 45.0):
                store = lossless(float(capacity))
                found = steady_power(
                    at_banks(SUN),
                    house_rows(house),
                    motor_rows(MOTORING),
                    0.0,
                    5000.0,
                    HOURS,
                    one_bank(store),
                )
                self.assertAlmostEqual(
                    found[0], programme(store, house, None), delta=0.5, msg=f"{capacity} {house}"
                )

    def test_watts_from_a_charge_to_the_reserve(self):
        last = int(np.flatnonzero(MOTORING)[-1]) + 1
        for capacity in (30, 200):
            for start in (0.35, 0.8, 1.0):
                store = lossless(float(capacity))
                args = (
                    at_banks(SUN), house_rows(30), motor_rows(MOTORING), start, 0.0, 5000.0, last, HOURS,
                    one_bank(store),
                )  # fmt: skip
                self.assertAlmostEqual(power_to_reserve(*args), programme(store, 30.0, start), delta=0.5)


class AlmanacTest(unittest.TestCase):
    def test_noon_height_is_ninety_less_latitude_and_declination(self):
        """At an equinox and the solstices the declination is known: 0 and 23.44 degrees, to half a degree."""
        for day, declination in (
            (date(2027, 3, 20), 0.0),
            (date(2027, 6, 21), 23.44),
            (date(2027, 12, 22), -23.44),
        ):
            for latitude in (-40.0, 0.0, 25.0, 61.4):
                steps = day_steps(HESPER.model_copy(update={"latitude_deg": latitude}), day)
                highest = 90 - steps.zenith_deg.min()
                self.assertAlmostEqual(highest, 90 - abs(latitude - declination), delta=0.6)

    def test_the_length_of_the_day_by_the_hour_angle(self):
        """cos h = -tan(latitude) tan(declination), and some ten minutes more for refraction and the sun's rim."""
        for latitude in (20.0, 45.0, 55.0):
            steps = day_steps(HESPER.model_copy(update={"latitude_deg": latitude}), date(2027, 6, 21))
            angle = np.degrees(np.arccos(-np.tan(np.radians(latitude)) * np.tan(np.radians(23.44))))
            hours = (steps.sunset_at - steps.sunrise_at).total_seconds() / 3600
            self.assertTrue(0.05 < hours - 2 * angle / 15 < 0.35, (latitude, hours))


class DocumentTest(unittest.TestCase):
    @settings(max_examples=40, deadline=None)
    @given(
        st.floats(1, 30), st.floats(0.3, 1), st.floats(0, 359.9), st.lists(st.tuples(st.floats(0.1, 9), st.floats(1, 9e4)), max_size=5),
        st.text(min_size=1, max_size=40).filter(lambda text: text.isprintable()),
    )  # fmt: skip
    def test_any_design_survives_its_file(self, length, breadth, heading, measured, name):
        design = boat(
            hull__waterline_length_m=length, hull__beam_m=max(breadth * length / 3, 0.2), hull__displacement_kg=21 + 60 * length * max(breadth * length / 3, 0.2) ** 2,
            plan__heading_deg=heading, name=name,
            runs=[{"id": f"r{i}", "speed_mps": v, "power_w": w} for i, (v, w) in enumerate(measured)],
        )  # fmt: skip
        self.assertEqual(read_boat(written(design).encode()), design)
