"""Measured ratios, side by side in one run; absolute times mean little on a shared machine.

1. The harvest of 200 days: this core, a plain notebook loop of library calls, a careful vectorised notebook.
2. What an edit costs the server, the place unchanged and the place changed.
3. The pace plan, a thousand days with their dispatch, a season; see `days`.
4. A passage: the best plan beside a plain loop, and what the screen asks; see `passages`.
5. A wish: the first look, the whole front, every boat tried; see `wishes`.
6. Several people editing at once; see `editors`.
7. What the first load costs in script.
"""

from __future__ import annotations

import asyncio
import gzip
import json
import os
import re
import sys
import tempfile
import time
import warnings
from collections.abc import Callable
from datetime import date, timedelta
from functools import partial
from pathlib import Path

import days
import editors
import numpy as np
import passages
import wishes
from clock import seconds
from parhelion.design import MeasuredRun

ROOT = Path(__file__).resolve().parents[1]
DAYS = 200
EDITS, ROUNDS = 20, 3  # edits of a station, and how often each is told
warnings.filterwarnings("ignore", message="DatetimeIndex.dayofyear is deprecated")


def harvest_ratio() -> None:
    import pandas as pd
    from parhelion.formats.boat_file import read_boat
    from parhelion.panels import harvest as array
    from parhelion.sun import light as sky
    from parhelion.sun.climate import air_temperature_c
    from parhelion.sun.daysteps import day_steps
    from parhelion.sun.sky import clear_sky_index
    from pvlib import iam, irradiance, location, pvsystem, temperature

    design = read_boat((ROOT / "demo" / "whimbrel.json").read_bytes())
    level = {"light_efficiency": None, "full_efficiency": None}  # as the notebooks have it, with no shade
    boxes = tuple(box.model_copy(update=level) for box in design.controllers)
    design = design.changed(obstacles=(), panels=design.panels[:1], controllers=boxes)
    site, day = design.site, design.plan.date
    index = clear_sky_index(design.plan.sky, day, DAYS)
    base = day_steps(site, day)
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
        cell = temperature.faiman(plane["poa_global"], air_temperature_c(design), 3.0)
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

    def core() -> float:
        """This core, with an empty cache for the light and the panels, the day's geometry kept."""
        light = sky._light(base, index)
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
    from parhelion.computing.kept import forget_all
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
        forget_all()
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
    from parhelion.begin.known import Known
    from parhelion.begin.new_boat import new_boat
    from parhelion.data import places
    from parhelion.design.hulltypes import HullType
    from parhelion.hull.calm import _thin_table
    from parhelion.hull.demand import demand_curve, fit_runs

    slowest = 0.0
    for hull_type in HullType:
        design = new_boat(Known(hull_type=hull_type, site=places()[0], date=date(2027, 6, 13)))

        def cold(design=design) -> None:
            _thin_table.memo.forget()  # type: ignore[attr-defined]
            demand_curve.memo.forget()  # type: ignore[attr-defined]
            demand_curve(design)

        slowest = max(slowest, seconds(cold, 4))
    design = new_boat(Known(hull_type=HullType.CATAMARAN, site=places()[0], date=date(2027, 6, 13)))
    runs = tuple(
        MeasuredRun(id=f"r{i}", speed_mps=1.5 + 0.4 * i, back_speed_mps=1.4 + 0.4 * i, power_w=300 * (i + 1))
        for i in range(4)
    )
    fitted = seconds(lambda: fit_runs(design, runs), 8)
    print(f"slowest full curve       {1e3 * slowest:7.1f} ms  (budget 40)")
    print(f"fit of four runs         {1e3 * fitted:7.1f} ms  (budget 20)")


def shade_times() -> None:
    """Sky tables of five panels behind a mast, a boom and an aerial, cold."""
    from parhelion.computing.kept import forget_all
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
        forget_all()
        for number in range(5):
            panel = PanelAt((-1 + 0.6 * number, -1.5, 2.0), (0.56, 0, 0), (0, 1.2, 0), 6, 12, False, True)
            shade.sky_table(panel, bodies, step_deg)

    for step_deg, budget in ((5.0, "dragging"), (3.0, "budget 600"), (2.0, "figures")):
        took = seconds(partial(tables, step_deg))
        print(f"sky tables at {step_deg:g} deg     {1e3 * took:7.1f} ms  ({budget}; 5 panels, cold)")


STATIONS = ("hull", "bank", "array", "strings", "day")
ENTRIES: tuple[tuple[str | int, ...], ...] = (
    ("loading", "boat_kg"), ("panels", 0, "nameplate_w"), ("plan", "speed_mps"), ("banks", 0, "unit_ah"),
    ("loads", 0, "power_w"),
)  # fmt: skip


def edit_times() -> None:
    """Server time of an edit, request by request: all the screen shows, beside the rail alone."""
    os.environ["DJANGO_SETTINGS_MODULE"] = "config.settings"
    os.environ["PARHELION_VAR"] = tempfile.mkdtemp()
    sys.path.insert(0, str(ROOT / "server"))
    import django

    django.setup()
    from django.conf import settings
    from django.test import AsyncClient

    settings.ALLOWED_HOSTS.append("testserver")  # Django's own client

    document = json.loads((ROOT / "demo" / "whimbrel.json").read_text())
    turns = iter(range(10**6))
    client = AsyncClient()

    async def post(change: Callable[[dict, int], None], number: int, station: str | None) -> float:
        """Until rail, picture and findings are in; the counts of the course line come at rest."""
        asked = json.loads(json.dumps(document))
        change(asked, number)
        studies = [{"study": f"{station}/picture"}] if station else []
        body = {"page": "bench", "turn": next(turns), "design": asked, "station": station, "studies": studies,
                "counts": False}  # fmt: skip
        said = json.dumps(body)
        began = time.perf_counter()
        reply = await client.post("/api/live", said, content_type="application/json")
        assert reply.status_code == 200, reply.content[:300]
        text = b"".join([part async for part in reply.streaming_content])
        took = time.perf_counter() - began
        assert b'"failed"' not in text, text[:300]
        return took

    def one_entry(asked: dict, number: int) -> None:
        """An edit is of one entry: of the boat, a panel, the plan, the bank or the house, in turn."""
        at, new = ENTRIES[number % len(ENTRIES)], 1 + 0.01 * (number + 1)
        for part in at[:-1]:
            asked = asked[part]
        asked[at[-1]] *= new

    def elsewhere(asked: dict, number: int) -> None:
        asked["site"]["latitude_deg"] = 35 + 0.3 * number
        asked["plan"]["date"] = str(date(2027, 5, 1) + timedelta(days=number))

    async def told(change: Callable[[dict, int], None], station: str | None) -> list[float]:
        forget_all()
        settle()
        await post(change, 0, station)
        return [1e3 * await post(change, 1 + number, station) for number in range(EDITS)]

    async def times(change: Callable[[dict, int], None], station: str | None) -> list[float]:
        """Of each edit the best of a few tellings, each to a server that keeps nothing of the one before."""
        return list(np.min([await told(change, station) for _ in range(ROUNDS)], axis=0))

    from parhelion.computing.kept import forget_all
    from serve import settle

    for name, change, budget in (
        ("place unchanged", one_entry, "60, 100"),
        ("place changed", elsewhere, "250"),
    ):
        for station in (*STATIONS, None):
            took = asyncio.run(times(change, station))
            print(
                f"edit, {name:16s} {station or 'rail alone':11s} median {np.median(took):5.0f} ms, "
                f"95th percentile {np.percentile(took, 95):5.0f} ms  (budget {budget})"
            )


def first_load() -> None:
    """Script of the first page, with what it preloads; and the largest chunk of another station."""
    assets = ROOT / "web" / "dist" / "assets"
    sizes = {file.name: len(gzip.compress(file.read_bytes(), 9)) / 1000 for file in assets.glob("*.js")}
    stations = {name: size for name, size in sizes.items() if re.match(r"\w+Station-", name)}
    first = next(file for file in assets.glob("index-*.js"))
    hull = next(file for file in assets.glob("HullStation-*.js"))
    wanted, seen = [first.name, hull.name], set()
    while wanted:
        name = wanted.pop()
        if name not in seen and name in sizes:
            seen.add(name)
            wanted += re.findall(r'from"\./([\w-]+\.js)"', (assets / name).read_text())
    print(
        f"first load of the Hull    {sum(sizes[name] for name in seen):.0f} kB gzip of script  (budget 185)"
    )
    name, size = max(stations.items(), key=lambda item: item[1])
    print(f"  largest station         {size:.0f} kB, {name.split('-')[0]}  (budget 60)")


if __name__ == "__main__":
    harvest_ratio()
    curve_times()
    year_ratio()
    shade_times()
    days.all_ratios()
    passages.all_ratios()
    wishes.all_ratios()
    edit_times()
    editors.all_ratios()
    first_load()
