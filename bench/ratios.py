"""Measured ratios, side by side in one run; absolute times mean little on a shared machine.

1. The harvest of 200 days: this core, a plain notebook loop of library calls, a careful vectorised notebook.
2. What an edit costs the server, the place unchanged and the place changed.
3. The pace plan, a thousand days with their dispatch, a season; see `days`.
4. What the first load costs in script.
"""

from __future__ import annotations

import gzip
import json
import os
import sys
import tempfile
import time
import warnings
from collections.abc import Callable
from datetime import date, timedelta
from functools import partial
from pathlib import Path

import days
import numpy as np
from clock import seconds
from parhelion.design import MeasuredRun

ROOT = Path(__file__).resolve().parents[1]
DAYS = 200
EDITS = 60
OTHER_STATIONS = (
    "DayStation-",
    "BankStation-",
    "ArrayStation-",
    "StringsStation-",
    "Loads-",
)  # their chunks are not part of the first load

warnings.filterwarnings("ignore", message="DatetimeIndex.dayofyear is deprecated")


def harvest_ratio() -> None:
    import pandas as pd
    from parhelion.formats.boat_file import read_boat
    from parhelion.panels import harvest as array
    from parhelion.sun import light as sky
    from parhelion.sun.sky import clear_sky_index
    from pvlib import iam, irradiance, location, pvsystem, temperature

    design = read_boat((ROOT / "demo" / "whimbrel.json").read_bytes())
    level = {"light_efficiency": None, "full_efficiency": None}  # as the notebooks have it, with no shade
    boxes = tuple(box.model_copy(update=level) for box in design.controllers)
    design = design.changed(obstacles=(), panels=design.panels[:1], controllers=boxes)
    site, day = design.site, design.plan.date
    index = clear_sky_index(design.plan.sky, day, DAYS)
    base = sky.day_steps(site, day)
    times = pd.date_range(base.starts_at + timedelta(minutes=5), periods=144, freq="10min")
    place = location.Location(site.latitude_deg, site.longitude_deg, altitude=site.altitude_m)
    nameplate = design.nameplate_w * 0.97 * 0.98 * 0.97 * 0.96

    def from_light(ghi, sun, extra):
        parts = irradiance.erbs_driesse(ghi, sun["zenith"], dni_extra=extra)
        plane = irradiance.get_total_irradiance(
            0, 180, sun["zenith"], sun["azimuth"], parts["dni"], ghi, parts["dhi"], dni_extra=extra,
            albedo=0.08, model="haydavies",
        )  # fmt: skip
        angle = irradiance.aoi(0, 180, sun["zenith"], sun["azimuth"])
        effective = plane["poa_direct"] * iam.ashrae(angle, b=0.05) + 0.96 * plane["poa_diffuse"]
        cell = temperature.faiman(plane["poa_global"], array.air_temperature_c(design), 3.0)
        return pvsystem.pvwatts_dc(effective, cell, nameplate, -0.0035)

    def notebook() -> float:
        """As a notebook does it: each day on its own, from the sun's place on."""
        total = 0.0
        for row in index:
            sun = place.get_solarposition(times)
            ghi = place.get_clearsky(times, solar_position=sun, linke_turbidity=base.linke_turbidity)["ghi"]
            extra = irradiance.get_extra_radiation(times)
            total += float(from_light(ghi * row, sun, extra).clip(lower=0).sum())
        return total / 6

    def careful() -> float:
        """A careful notebook: geometry once, one long series for all days."""
        sun = place.get_solarposition(times)
        ghi = place.get_clearsky(times, solar_position=sun, linke_turbidity=base.linke_turbidity)["ghi"]
        extra = irradiance.get_extra_radiation(times)
        long = pd.date_range(times[0], periods=144 * DAYS, freq="10min")
        suns = pd.DataFrame(np.tile(sun.to_numpy(), (DAYS, 1)), index=long, columns=sun.columns)
        light = pd.Series((ghi.to_numpy() * index).ravel(), index=long)
        made = from_light(light, suns, pd.Series(np.tile(extra.to_numpy(), DAYS), index=long))
        return float(made.clip(lower=0).sum()) / 6

    counter = iter(range(10**6))

    def core() -> float:
        """This core, with an empty cache for the light and the panels, the day's geometry kept."""
        key = ("bench", next(counter))
        light = sky._light(site, day, index, key)
        return float(array.harvest(design, light).sun_w.sum()) / 6

    fast, slow, middle = seconds(core, 8), seconds(notebook, 1), seconds(careful, 3)
    agree = core() / notebook() - 1
    print(f"harvest of {DAYS} days      core {1e3 * fast:7.1f} ms")
    print(f"  notebook loop          {1e3 * slow:7.1f} ms   {slow / fast:6.0f} times the core  (aim: 20)")
    print(f"  careful notebook       {1e3 * middle:7.1f} ms   {middle / fast:6.1f} times the core")
    print(f"  the totals agree within {abs(agree):.1e}")


def year_ratio() -> None:
    """A year at ten-minute steps, four planes, a heading of its own at every step, against a plain loop."""
    import pandas as pd
    from parhelion.data import places
    from parhelion.design import Sky, Ventilation
    from parhelion.panels.panel import power_per_watt
    from parhelion.panels.plane import plane_light
    from parhelion.sun import year as years
    from pvlib import iam, irradiance, location, pvsystem, temperature

    site, year = places()[0], 2027
    planes = ((0.0, 0.0), (20.0, 90.0), (40.0, 180.0), (60.0, 270.0))  # tilt, and where it faces off the bow
    first = pd.Timestamp(f"{year}-01-01", tz="UTC") - pd.Timedelta(hours=site.longitude_deg / 15)
    times = pd.date_range(first + pd.Timedelta(minutes=5), periods=365 * 144, freq="10min")
    headings = (np.cumsum(np.random.default_rng(1).normal(0, 4, len(times))) % 360).round(1)
    place = location.Location(site.latitude_deg, site.longitude_deg, altitude=site.altitude_m)
    turbidity = 3.0
    fixed = site.model_copy(update={"linke_turbidity": turbidity})

    def core() -> float:
        years._years = years.Memo(4)
        [(_, light)] = years.year_light(fixed, year, Sky.CLEAR)
        turned = headings[years.year_steps(fixed, year).step]
        total = 0.0
        for tilt, side in planes:
            lit = plane_light(light, tilt, (turned + side) % 360)
            total += float(power_per_watt(lit, 15.0, 3.0, Ventilation.OPEN, -0.0035).sum())
        return total

    def loop() -> float:
        """As a plain script does it: day by day, plane by plane."""
        total = 0.0
        for day in range(365):
            rows = slice(144 * day, 144 * (day + 1))
            now, turned = times[rows], headings[rows]
            sun = place.get_solarposition(now)
            ghi = place.get_clearsky(now, linke_turbidity=turbidity)["ghi"]
            extra = irradiance.get_extra_radiation(now)
            parts = irradiance.erbs_driesse(ghi, sun["zenith"], dni_extra=extra)
            for tilt, side in planes:
                facing = (turned + side) % 360
                plane = irradiance.get_total_irradiance(
                    tilt, facing, sun["zenith"], sun["azimuth"], parts["dni"], ghi, parts["dhi"],
                    dni_extra=extra, albedo=0.08, model="haydavies",
                )  # fmt: skip
                angle = irradiance.aoi(tilt, facing, sun["zenith"], sun["azimuth"])
                effective = plane["poa_direct"] * iam.ashrae(angle, b=0.05) + 0.96 * plane["poa_diffuse"]
                cell = temperature.faiman(plane["poa_global"], 15.0, 3.0)
                total += float(pvsystem.pvwatts_dc(effective, cell, 1.0, -0.0035).clip(lower=0).sum())
        return total

    fast, slow = seconds(core, 5), seconds(loop, 1)
    print(f"a year, 4 planes         core {1e3 * fast:7.1f} ms")
    print(f"  plain loop             {1e3 * slow:7.1f} ms   {slow / fast:6.0f} times the core  (aim: 100)")
    print(f"  the totals agree within {abs(core() / loop() - 1):.1e}")


def curve_times() -> None:
    """A full curve of every hull type, cold, and the fit of four runs."""
    from parhelion.data import places
    from parhelion.design.hulltypes import HullType
    from parhelion.design.new_boat import new_boat
    from parhelion.hull import calm
    from parhelion.hull.demand import demand_curve, fit_runs

    slowest = 0.0
    for hull_type in HullType:
        design = new_boat(hull_type, "bench", places()[0], date(2027, 6, 13))

        def cold(design=design) -> None:
            calm._thin_waves = type(calm._thin_waves)(64)
            demand_curve(design)

        slowest = max(slowest, seconds(cold, 4))
    design = new_boat(HullType.CATAMARAN, "bench", places()[0], date(2027, 6, 13))
    runs = tuple(
        MeasuredRun(id=f"r{i}", speed_mps=1.5 + 0.4 * i, back_speed_mps=1.4 + 0.4 * i, power_w=300 * (i + 1))
        for i in range(4)
    )
    fitted = seconds(lambda: fit_runs(design, runs), 8)
    print(f"slowest full curve       {1e3 * slowest:7.1f} ms  (budget 40)")
    print(f"fit of four runs         {1e3 * fitted:7.1f} ms  (budget 20)")


def shade_times() -> None:
    """Sky tables of five panels behind a mast, a boom and an aerial, cold."""
    from parhelion.design import Obstacle, Point
    from parhelion.panels import shade
    from parhelion.panels.bodies import body_of
    from parhelion.panels.layout import PanelAt

    def spar(name: str, foot: tuple[float, ...], tip: tuple[float, ...], radius_m: float) -> Obstacle:
        ends = [Point(x_m=x, y_m=y, z_m=z) for x, y, z in (foot, tip)]
        return Obstacle(id=name, name=name, foot=ends[0], tip=ends[1], radius_m=radius_m)

    spars = (
        spar("mast", (0, 1, 1), (0, 1, 12), 0.07),
        spar("boom", (0, 0.9, 2.2), (0, -2.6, 2.4), 0.05),
        spar("aerial", (0.8, -3, 1), (0.8, -3, 4), 0.015),
    )

    bodies = tuple(body_of(thing) for thing in spars)

    def tables(step_deg: float) -> None:
        shade._tables, shade._shadows = shade.Memo(400), shade.Memo(600)
        for number in range(5):
            panel = PanelAt((-1 + 0.6 * number, -1.5, 2.0), (0.56, 0, 0), (0, 1.2, 0), 6, 12, False, True)
            shade.sky_table(panel, bodies, step_deg)

    for step_deg, budget in ((5.0, "dragging"), (3.0, "budget 600"), (2.0, "figures")):
        took = seconds(partial(tables, step_deg))
        print(f"sky tables at {step_deg:g} deg     {1e3 * took:7.1f} ms  ({budget}; 5 panels, cold)")


def edit_times() -> None:
    os.environ["DJANGO_SETTINGS_MODULE"] = "config.settings"
    os.environ["PARHELION_VAR"] = tempfile.mkdtemp()
    sys.path.insert(0, str(ROOT / "server"))
    import django

    django.setup()
    from django.test import Client

    client = Client()
    document = json.loads((ROOT / "demo" / "whimbrel.json").read_text())

    def post(change: Callable[[dict, int], None], number: int) -> float:
        asked = json.loads(json.dumps(document))
        change(asked, number)
        took = 0.0
        for url in (
            "/api/answers",
            "/api/day/picture",
            "/api/hull/picture",
            "/api/bank/picture",
            "/api/array/picture",
            "/api/warnings",
        ):
            began = time.perf_counter()
            reply = client.post(url, json.dumps({"design": asked}), content_type="application/json")
            took = max(took, time.perf_counter() - began)
            assert reply.status_code == 200, reply.content[:200]
        return took

    def heavier(asked: dict, number: int) -> None:
        asked["loading"]["boat_kg"] = 780 + 5 * number
        asked["panels"][0]["nameplate_w"] = 200 + number
        asked["plan"]["speed_mps"] = 1.5 + 0.01 * number

    def elsewhere(asked: dict, number: int) -> None:
        asked["site"]["latitude_deg"] = 35 + 0.3 * number
        asked["plan"]["date"] = str(date(2027, 5, 1) + timedelta(days=number))

    post(heavier, 0), post(elsewhere, 0)
    for name, change, budget in (("place unchanged", heavier, 150), ("place changed", elsewhere, 500)):
        times = [1e3 * post(change, 1 + number) for number in range(EDITS)]
        print(
            f"edit, {name:16s}  median {np.median(times):5.0f} ms, 95th percentile "
            f"{np.percentile(times, 95):5.0f} ms  (budget {budget})"
        )


def first_load() -> None:
    files = [
        f for f in (ROOT / "web" / "dist" / "assets").glob("*.js") if not f.name.startswith(OTHER_STATIONS)
    ]
    total = sum(len(gzip.compress(f.read_bytes(), 9)) for f in files)
    print(f"first load of the Hull    {total / 1000:.0f} kB gzip of script  (budget 200)")


if __name__ == "__main__":
    harvest_ratio()
    curve_times()
    year_ratio()
    shade_times()
    days.all_ratios()
    edit_times()
    first_load()
