"""The ladder against every combination, variants side by side, forecasts, and days planned one by one."""

from __future__ import annotations

import json
import unittest
from datetime import date, timedelta
from itertools import pairwise, product

from parhelion.balance.outlook import outlook_of, shown_outlook
from parhelion.design import BoatDesign, Sky
from parhelion.design.changes import changes
from parhelion.errors import UnreadableFile
from parhelion.formats.forecast_file import read_forecast
from parhelion.quantities import count, words
from parhelion.rail.held_back import miles_m
from parhelion.stations.year.ahead import days_ahead
from parhelion.stations.year.compare import compare
from parhelion.stations.year.upgrades import _after, _Boat, _steps, upgrade_steps
from parhelion.sun.forecast import simulated_forecast, word_for
from parhelion.sun.generated import month_of

from tests.cases import boat

TIGHT = {"banks__0__unit_ah": 40, "banks__0__capacity_ah": 40, "loads__0__power_w": 60}


def every_ladder(design: BoatDesign, most: int) -> float:
    """The best miles of all combinations of so many of each step, by brute force [m]."""
    base = shown_outlook(design, outlook_of(design))
    budget, whole = design.plan.budget, design.displacement_kg

    def miles(changed, added):
        return miles_m(shown_outlook(changed, base, whole + added), "days_run_sun")

    start = _Boat(design, miles(design, 0.0))
    kinds = [step[0] for step in _steps(start, base, budget)]
    best = start.miles_m
    for numbers in product(range(most + 1), repeat=len(kinds)):
        made, spent = start, True
        for kind, number in zip(kinds, numbers, strict=True):
            for _ in range(number):
                step = next((s for s in _steps(made, base, budget) if s[0] == kind), None)
                if step is None or made.cost + step[3] > budget.coins:
                    spent = False
                    break
                made = _after(made, step, miles)
        if spent:
            best = max(best, made.miles_m)
    return best


class LadderTest(unittest.TestCase):
    def test_it_finds_what_every_combination_finds(self):
        for changed in ({}, TIGHT):
            design = boat(**changed, plan__budget={"coins": 900})
            found = upgrade_steps(outlook_of(design))
            top = found.steps[-1].total_m if found.steps else found.start_m
            self.assertGreaterEqual(top, 0.995 * every_ladder(design, 2))
            self.assertLessEqual(found.cost, 900)
            self.assertAlmostEqual(found.start_m + sum(step.gain_m for step in found.steps), top, delta=1e-6)
            self.assertTrue(all(step.gain_m > 0 for step in found.steps))

    def test_the_budget_holds_and_what_is_owned_costs_nothing(self):
        poor = upgrade_steps(outlook_of(boat(plan__budget={"coins": 0})))
        self.assertTrue(all(step.cost == 0 for step in poor.steps))
        light = upgrade_steps(outlook_of(boat(plan__budget={"coins": 5_000, "mass_kg": 15})))
        self.assertLessEqual(sum(max(step.mass_kg, 0) for step in light.steps), 15)
        owned = upgrade_steps(outlook_of(boat(plan__budget={"coins": 0, "owned_panels": 2})))
        free = [step for step in owned.steps if step.kind == "panel"]
        self.assertEqual([step.owned for step in free], [True, True])
        design = boat(plan__budget={"coins": 2_000})
        rich = upgrade_steps(outlook_of(design))
        self.assertGreater(rich.steps[-1].total_m, owned.steps[-1].total_m)
        panels = sum(step.kind == "panel" for step in rich.steps)
        refitted = BoatDesign.model_validate(rich.refit.of(design).model_dump())
        self.assertEqual(refitted.panels[0].count, boat().panels[0].count + panels)

    def test_work_that_nobody_waits_for_ends(self):
        told: list[float] = []

        class Enough(Exception):
            pass

        def report(share: float) -> None:
            told.append(share)
            if len(told) == 2:
                raise Enough

        with self.assertRaises(Enough):
            upgrade_steps(outlook_of(boat(plan__budget={"coins": 5_000})), report)
        self.assertEqual(told, sorted(told))


class ComparisonTest(unittest.TestCase):
    def test_answers_years_money_and_words(self):
        plain = boat(plan__sky="broken")
        more = plain.changed(panels=(plain.panels[0].model_copy(update={"count": 6}),))
        shares: list[float] = []
        found = compare([("as designed", plain), ("more panel", more)], shares.append)
        self.assertAlmostEqual(shares[-1], 1.0)
        lines = {line.key: line for line in found.lines}
        self.assertEqual(lines["steady"].better, 1)
        self.assertEqual(lines["price"].better, 0)
        self.assertGreater(found.sides[1].year_m, found.sides[0].year_m)
        self.assertEqual(found.sides[0].differences, [])
        self.assertEqual([(d.before, d.after) for d in found.sides[1].differences], [(count(4), count(6))])
        self.assertIn("goes {gain} a usual day", found.told[0].text)
        same = compare([("a", plain), ("b", plain)])
        self.assertTrue(all(line.better is None for line in same.lines))
        self.assertIn("goes as far as", same.told[0].text)
        for few in ([("a", plain)], [("a", plain)] * 5):
            with self.assertRaises(ValueError):
                compare(few)

    def test_a_part_put_in_before_others_is_one_change(self):
        plain = boat()
        place = plain.places[0].model_copy(update={"id": "arch", "name": "Arch"})
        longer = plain.changed(places=(place, *plain.places))
        self.assertEqual([(c.field, c.label, c.before, c.after) for c in changes(plain, longer)],
                         [("/places/0", "Place", None, words("Arch"))])  # fmt: skip
        self.assertEqual([(c.before, c.after) for c in changes(longer, plain)], [(words("Arch"), None)])


class ForecastTest(unittest.TestCase):
    def test_the_stand_in_repeats_itself_and_keeps_the_climate(self):
        site, start = boat().site, date(2027, 6, 1)
        one, two = (simulated_forecast(site, start, 7) for _ in range(2))
        self.assertEqual(one, two)
        self.assertEqual([day.date for day in one.days], [start + timedelta(days=n) for n in range(7)])
        hours = [
            day.sun_hours
            for k in range(40)
            for day in simulated_forecast(site, date(2000 + k, 6, 1), 16).days
        ]
        self.assertAlmostEqual(sum(hours) / len(hours), month_of(site, 2027, 6).sun_h, delta=0.25)

    def test_open_json_is_read_and_wrong_ones_are_told(self):
        days = [
            {"date": "2027-06-13", "sky": "broken", "wind_mps": 4},
            {"date": "2027-06-14", "cloud_oktas": 8},
        ]
        found = read_forecast(json.dumps({"source": "the harbour office", "days": days}))
        self.assertEqual([day.sky for day in found.days], [Sky.BROKEN, word_for(0.25)])
        self.assertEqual(found.source, "the harbour office")
        wrong = (
            ("{", "", "no JSON"), ("[]", "/days", "no days"), ('{"days": [3]}', "/days/0", "not an object"),
            (json.dumps({"days": [{"date": "13.6."}]}), "/days/0/date", "none"),
            (json.dumps({"days": [{"date": "2027-06-13"}]}), "/days/0", "no sky"),
            (json.dumps({"days": [{"date": "2027-06-13", "sky": "nice"}]}), "/days/0/sky", "not known"),
            (json.dumps({"days": [{"date": "2027-06-13", "cloud_oktas": 9}]}), "/days/0/cloud_oktas", "9"),
            (json.dumps({"days": [days[0], {**days[1], "date": "2027-06-16"}]}), "/days/1/date", "follow"),
            (json.dumps({"days": [days[0]] * 17}), "/days", "more"),
            (json.dumps({"days": [{**days[0], "hours": 5}]}), "/days/0/hours", "no list"),
            (json.dumps({"days": [{**days[0], "hours": [5]}]}), "/days/0/hours/0", "not an object"),
            (json.dumps({"days": [{**days[0], "hours": [{"from_clock": "25:00"}]}]}), "/days/0/hours/0/from_clock", "none"),
            (json.dumps({"days": [{**days[0], "wind_from_deg": 400}]}), "/days/0/wind_from_deg", "400"),
        )  # fmt: skip
        for text, field, said in wrong:
            with self.assertRaises(UnreadableFile) as refused:
                read_forecast(text)
            problem = refused.exception.problems[0]
            self.assertEqual(problem.field, field, text)
            self.assertIn(said, problem.message)


class DayByDayTest(unittest.TestCase):
    def test_each_day_has_its_own_plan(self):
        days = [{"out": True, "sky": "clear", "speed_mps": 1.5}, {"out": False, "sky": "rain"},
                {"out": True, "sky": "rain", "speed_mps": 2.4}, {"out": True}]  # fmt: skip
        found = days_ahead(boat(plan__trip={"days": days}))
        self.assertEqual([day.kind for day in found.days], ["out", "rest", "out", "out"])
        self.assertEqual([day.sky for day in found.days], ["clear", "rain", "rain", None])
        self.assertEqual(found.days[1].date - found.days[0].date, timedelta(days=1))
        self.assertEqual(found.days[1].metres_middle, 0)
        self.assertLess(found.days[2].charge_middle, found.days[0].charge_middle)
        hours = found.days[0].metres_middle / 1.5
        self.assertAlmostEqual(found.days[3].metres_high / hours / boat().plan.speed_mps, 1, delta=1e-4)

    def test_brighter_words_never_leave_less(self):
        ends = []
        for sky in ("rain", "overcast", "hazy", "clear"):
            days = [{"out": True, "sky": sky}, {"out": False, "sky": sky}]
            ends.append(days_ahead(boat(plan__trip={"days": days})).days[-1].charge_middle)
        self.assertTrue(all(b > a - 1e-3 for a, b in pairwise(ends)), ends)  # full is full


if __name__ == "__main__":
    unittest.main()
