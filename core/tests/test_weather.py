"""Weather files: the open formats, what is wrong with them, and a real year against generated days."""

from __future__ import annotations

import json
import unittest
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pandas as pd
import pvlib
from parhelion.balance.days_on_end import REFUSED_WH, run_chain
from parhelion.balance.steady import motor_of
from parhelion.formats.weather_file import read_weather
from parhelion.hull.demand import demand_curve
from parhelion.panels.harvest import harvest
from parhelion.stations.year.season import _days_of, _steady_w, season
from parhelion.sun.daysteps import day_steps
from parhelion.sun.generated import middle_day, month_of
from parhelion.sun.light import Light, split

from tests.cases import HOURS, STEP_H, boat

REAL = Path(pvlib.__file__).parent / "data" / "723170TYA.CSV"  # a typical year that comes with pvlib
YEAR_HOURS = pd.date_range("2010-01-01", periods=8760, freq="h")
ROW = "2001,{m},{d},{h},60,A7,10.0,5.0,70,101300,0,0,300,{ghi},50,60,0,0,0,0,180,2.0,5,5,20,77777,9,999999999,10,0.1,0,88,0.2,0,0"


def light_of(hour: int) -> float:
    return 500.0 if 10 <= hour < 14 else 0.0  # 2 full-sun hours


def epw(
    rows: int = 8760, latitude: float = 46.0, bad: int = 0, light: Callable[[int], float] = light_of
) -> str:
    lines = [f"LOCATION,Here,XX,YYY,SRC,123456,{latitude},8.0,1.0,100.0", *["X"] * 7]
    for k, at in enumerate(YEAR_HOURS[:rows]):
        ghi = 9999 if k < bad else light(at.hour)
        lines.append(ROW.format(m=at.month, d=at.day, h=at.hour + 1, ghi=ghi))
    return "\n".join(lines)


def pvgis_csv() -> str:
    head = [
        "Latitude (decimal degrees): 46.0",
        "Longitude (decimal degrees): 8.0",
        "Elevation (m): 250",
        "month,year",
    ]
    head += [f"{month},2010" for month in range(1, 13)] + [
        "time(UTC),T2m,RH,G(h),Gb(n),Gd(h),IR(h),WS10m,WD10m,SP"
    ]
    rows = [f"{at:%Y%m%d:%H%M},1.0,50,{light_of(at.hour)},50,60,300,2,90,100000" for at in YEAR_HOURS]
    return "\n".join([*head, *rows, "", "notes", ""])


def pvgis_json() -> str:
    place = {"location": {"latitude": 46.0, "longitude": 8.0, "elevation": 250.0}}
    rows = [
        {"time(UTC)": f"{at:%Y%m%d:%H%M}", "T2m": 1.0, "RH": 50.0, "G(h)": light_of(at.hour), "Gb(n)": 50.0,
         "Gd(h)": 60.0, "IR(h)": 300.0, "WS10m": 2.0, "WD10m": 90.0, "SP": 1e5}
        for at in YEAR_HOURS
    ]  # fmt: skip
    months = [{"month": month, "year": 2010} for month in range(1, 13)]
    outputs = {"months_selected": months, "tmy_hourly": rows}
    described = {"outputs": {"tmy_hourly": {"variables": {}}, "months_selected": {}}, "inputs": place}
    return json.dumps({"inputs": place, "outputs": outputs, "meta": described})


class ReadTest(unittest.TestCase):
    def test_the_same_year_in_every_format(self):
        for kind, text in (("EPW", epw()), ("PVGIS CSV", pvgis_csv()), ("PVGIS JSON", pvgis_json())):
            found = read_weather(text, 46.5)
            self.assertEqual((found.kind, found.hours, found.problems), (kind, 8760, []), found.problems)
            np.testing.assert_allclose(found.sun_hours, 2.0, atol=0.02)
        real = read_weather(REAL.read_text(encoding="iso-8859-1"), 36.1)
        self.assertEqual((real.kind, real.hours, real.problems), ("TMY3", 8760, []))
        self.assertTrue(2.0 < min(real.sun_hours) < 2.8 and 6.0 < max(real.sun_hours) < 6.8)

    def test_what_is_wrong_is_told_by_its_line(self):
        short = read_weather(epw(rows=5000), 46.0)
        self.assertEqual(short.sun_hours, [])
        self.assertIn("5,000 hours", short.problems[0].message)
        few = read_weather(epw(bad=30), 46.0)
        self.assertEqual((few.missing, few.problems[0].line), (30, 9))
        self.assertIn("9999", few.problems[0].message)
        self.assertAlmostEqual(few.sun_hours[0], 2.0, delta=0.1)
        many = read_weather(epw(bad=200), 46.0)
        self.assertEqual(many.sun_hours, [])
        self.assertIn("January lacks 27 %", many.problems[-1].message)
        south = read_weather(epw(latitude=-40.0), 46.0)
        self.assertIn("the other half of the world", south.problems[0].message)
        self.assertIn("6° from your place", read_weather(epw(latitude=40.0), 46.0).problems[0].message)
        for text in ("", "time,ghi\n2020-01-01 00:00,0", "{}", epw()[:900]):
            found = read_weather(text, 46.0)
            self.assertEqual(found.sun_hours, [])
            self.assertTrue(found.problems[0].accepted)

    def test_well_formed_nonsense_is_told_and_not_used(self):
        """Nothing at all, kilowatts for watts, more than reaches the air, day for night."""
        for light, words in (
            (lambda hour: 0.0, "none is that dark"),
            (lambda hour: light_of(hour) / 1000, "none is that dark"),
            (lambda hour: 1400.0, "falls at night"),
            (lambda hour: 1400.0 if 6 <= hour < 18 else 0.0, "none is that clear"),
            (lambda hour: light_of((hour + 12) % 24), "falls at night"),
        ):
            found = read_weather(epw(light=light), 46.0)
            self.assertEqual(found.sun_hours, [])
            self.assertTrue(any(words in problem.message for problem in found.problems), found.problems)
        polar = read_weather(epw(latitude=78.0), 78.0)
        self.assertTrue(all("dark" not in problem.message for problem in polar.problems), polar.problems)


class RealYearTest(unittest.TestCase):
    def test_generated_days_harvest_what_a_real_year_does(self):
        """Fed with the file's monthly means alone: every month's harvest, its poor day, its waste and its speed."""
        found = read_weather(REAL.read_text(encoding="iso-8859-1"), 36.1)
        climate = {"known_by": "sun_hours", "sun_hours": found.sun_hours}
        design = boat(site__latitude_deg=36.1, site__longitude_deg=-79.95, site__altitude_m=273.0, site__climate=climate,
                      controllers__0__current_limit_a=None)  # fmt: skip
        table, _ = pvlib.iotools.read_tmy3(REAL, coerce_year=2001)
        ghi = table["ghi"].to_numpy().reshape(365, 24)  # stamped at the end of each hour, local standard time
        dates = [stamp.date() for stamp in pd.date_range("2001-01-01", periods=365)]
        year = season(design, days=400)
        wasted = []
        for month in range(1, 13):
            mine = [k for k, date in enumerate(dates) if date.month == month]
            then = design.changed(plan=design.plan.model_copy(update={"date": middle_day(2026, month)}))
            day_wh, by_bank = [], []
            for k in mine:
                day = day_steps(design.site, dates[k])
                local = [day.at_index(i + 0.5) for i in range(144)]
                hours = np.array([(at.hour - (at.dst().total_seconds() / 3600)) % 24 for at in local]).astype(
                    int
                )
                clear = np.array(
                    [
                        day.clear_ghi_w_per_m2[hours == h].mean() if (hours == h).any() else 0
                        for h in range(24)
                    ]
                )
                index = np.divide(ghi[k], clear, out=np.zeros(24), where=clear > 5)
                light = np.minimum(index[hours], 1.5) * day.clear_ghi_w_per_m2
                light = light[None] * (ghi[k].sum() / max(light.sum() / 6, 1e-9))
                own = Light(day, light, *split(day, light), 0)
                given = harvest(then, own)
                day_wh.append(given.sun_w.sum() * STEP_H)
                by_bank.append(given.by_bank_w[0])
            made = year.months[month - 1]
            self.assertAlmostEqual(made.harvest_wh / np.mean(day_wh), 1, delta=0.05, msg=month)
            days = month_of(design.site, 2026, month, 400)
            daily = (days.index * days.day.clear_ghi_w_per_m2).sum(axis=1)
            poor = np.quantile(daily, 0.1) / daily.mean()
            self.assertAlmostEqual(poor, np.quantile(day_wh, 0.1) / np.mean(day_wh), delta=0.2)
            real = np.ascontiguousarray(by_bank)
            outlook = _days_of(design, month, demand_curve(design), 400)[0].outlook
            watts, start = _steady_w(outlook, real.mean(axis=0))
            steady = float(outlook.curve.speed_at(watts))
            self.assertAlmostEqual(made.speed_mps / steady, 1, delta=0.03, msg=month)
            again = np.ascontiguousarray(np.tile(real, (12, 1, 1)))  # so that where it began no longer counts
            days_run = run_chain(again, outlook.house_rows_w, motor_of(outlook.motor_rows, watts),
                                 np.ascontiguousarray(outlook.motoring), start, start, HOURS, outlook.aboard)  # fmt: skip
            wasted.append(days_run[:, REFUSED_WH].mean() / np.mean(day_wh))
        ours = np.array([made.refused_wh / made.harvest_wh for made in year.months])
        self.assertAlmostEqual(ours.mean(), np.mean(wasted), delta=0.03)
        # one month's thirty days wander: a sample of its own, not the climate's
        self.assertLess(np.abs(ours - wasted).max(), 0.04)


if __name__ == "__main__":
    unittest.main()
