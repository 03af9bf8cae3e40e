"""Ratios of the Day: the pace plan, a thousand days with their dispatch, a whole season."""

from __future__ import annotations

import json
import time
from pathlib import Path

import numpy as np
from clock import seconds

ROOT = Path(__file__).resolve().parents[1]
EDGES = 40  # of the speed curve that the linear programme sees
PLAIN_DAYS = 20  # of the thousand, for what is slow


def pace_ratio() -> None:
    """A day and ten days of the pace plan, against a linear programme of the same day."""
    from parhelion.balance.pace import pace_plan, speeds_of
    from scipy.optimize import linprog
    from scipy.sparse import lil_matrix

    v = np.linspace(0, 6, 600)
    speeds = speeds_of(12 * v[1:] ** 3, v[1:])
    hours = (np.arange(1440) + 0.5) / 6
    cloud = np.repeat(np.array([1, 0.4, 0.8, 0.2, 1, 0.6, 0.9, 0.3, 0.7, 1]), 144)
    net = cloud * np.maximum(0, 1050 * np.sin(np.pi * (hours % 24 - 6) / 12)) - 60
    share = ((hours % 24 > 6) & (hours % 24 < 20)).astype(float)
    bank = (1800.0, 1200.0, 600.0, 3000.0, 0.95, 0.97)

    def plan(steps: int) -> float:
        return pace_plan(net[:steps], share[:steps], 1 / 6, *bank, speeds).distance_m

    def programme() -> float:
        edges = np.linspace(0, 6, EDGES + 1)
        watts, way = np.diff(12 * edges**3), np.diff(edges)
        n, begin, goal, floor, full, into, out = 144, *bank
        width = n * EDGES + 3 * n + 1
        cost = np.zeros(width)
        cost[: n * EDGES] = np.tile(-way / watts * 600.0, n)
        most, same = lil_matrix((n, width)), lil_matrix((n, width))
        at = n * EDGES
        for k in range(n):
            most[k, k * EDGES : (k + 1) * EDGES] = 1.0
            most[k, at + k], most[k, at + n + k] = 1.0, -1.0
            same[k, at + 2 * n + k + 1], same[k, at + 2 * n + k] = 1.0, -1.0
            same[k, at + k], same[k, at + n + k] = -into / 6, 1 / out / 6
        bounds = [(0, w * s) for s in share[:n] for w in watts] + [(0, None)] * (2 * n)
        bounds += [(begin, begin)] + [(floor, full)] * (n - 1) + [(goal, full)]
        found = linprog(cost, most.tocsr(), net[:n], same.tocsr(), np.zeros(n), bounds, method="highs")
        return -float(found.fun)

    day, ten, slow = seconds(lambda: plan(144), 20), seconds(lambda: plan(1440), 8), seconds(programme, 2)
    print(f"pace plan, a day         core {1e3 * day:7.2f} ms  (budget 2)")
    print(f"  linear programme       {1e3 * slow:7.1f} ms   {slow / day:6.0f} times the core")
    print(f"  the miles agree within {abs(plan(144) / programme() - 1):.1e}, its edges")
    print(f"pace plan, ten days      core {1e3 * ten:7.2f} ms  (budget 20)")


def dispatch_ratio() -> None:
    """A thousand days on four planes with their dispatch, against the same in a plain loop."""
    from parhelion.balance import flow
    from parhelion.balance.days_on_end import run_chain
    from parhelion.balance.outlook import outlook_of
    from parhelion.design import BoatDesign
    from parhelion.panels.harvest import harvest
    from parhelion.stations.year.season import between, light_at_skies
    from parhelion.sun import light as sky
    from parhelion.sun.daysteps import day_at
    from parhelion.sun.generated import middle_day, month_of

    document = json.loads((ROOT / "demo" / "whimbrel.json").read_text())
    document["obstacles"] = []
    panel, place = document["panels"][0], document["places"][0]
    place.pop("at", None)
    sides = ("bow", "starboard", "stern", "port")
    document["places"] = [
        {**place, "id": f"p{k}", "tilt_deg": 15.0 * k, "faces": side} for k, side in enumerate(sides)
    ]
    document["panels"] = [{**panel, "id": f"g{k}", "place_id": f"p{k}"} for k in range(4)]
    document["plan"]["heading_deg"] = 40.0
    design = BoatDesign.model_validate(document)
    outlook = outlook_of(design)
    assert outlook.aboard is not None
    month, date = month_of(design.site, 2027, 6), middle_day(2027, 6)
    index = month.index
    motoring = np.ascontiguousarray(outlook.motoring)
    step_h = outlook.timeline.step_h
    watts = outlook.plan_motor_w

    def direct() -> None:
        light = sky._light(day_at(design.site.spot, design.plan.date), index)
        sun = np.ascontiguousarray(harvest(design, light).by_bank_w)
        starts = np.full(len(sun), 0.7)
        flow.run_days(sun, outlook.house_rows_w, watts, starts, starts, step_h, outlook.aboard)

    def core() -> None:
        """As the season does it: a dozen skies harvested, every day read between them and run on."""
        light_at_skies.memo.forget()  # type: ignore[attr-defined]
        sun = between(harvest(design, light_at_skies(design.site.spot, date)).by_bank_w, index)
        run_chain(sun, outlook.house_rows_w, watts, motoring, 0.7, 0.7, step_h, outlook.aboard)

    sun = np.ascontiguousarray(outlook.harvest.by_bank_w[:PLAIN_DAYS])

    def plain() -> None:
        soc = own = 0.7
        for rows in sun:
            for t in range(len(rows)):
                house = outlook.house_rows_w[:, t]
                row = flow.step.py_func(soc, own, rows[t, 0], rows[t, 1], *house, watts[t],
                                        float(step_h[t]), outlook.aboard)  # fmt: skip
                soc, own = row[0], row[10]

    fast, each, slow = seconds(core, 6), seconds(direct, 4), seconds(plain, 1) * 1000 / PLAIN_DAYS
    print(f"1000 days, 4 planes      core {1e3 * fast:7.1f} ms  (budget 60), dispatch and all")
    print(f"  every day harvested    {1e3 * each:7.0f} ms   {each / fast:6.1f} times the core")
    print(f"  dispatch in a loop     {1e3 * slow:7.0f} ms   {slow / fast:6.0f} times the core")


def season_ratio() -> None:
    """A season of a thousand days a month, cold and again, against its days harvested one by one."""
    from parhelion.formats.boat_file import read_boat
    from parhelion.panels.harvest import harvest
    from parhelion.stations.year import season as year
    from parhelion.sun import light as sky
    from parhelion.sun.daysteps import day_at
    from parhelion.sun.generated import middle_day, month_of

    design = read_boat((ROOT / "demo" / "whimbrel.json").read_bytes())
    began = time.perf_counter()
    year.season(design)
    cold = time.perf_counter() - began

    def again() -> None:
        """What the season itself keeps forgotten, the lights and the deck kept."""
        year.season.memo.forget()  # type: ignore[attr-defined]
        year.season(design)

    warm = seconds(again, 3)
    date = middle_day(2027, 6)
    index = month_of(design.site, 2027, 6).index
    dated = design.changed(plan=design.plan.model_copy(update={"date": date}))

    def one_by_one() -> None:
        for number in range(PLAIN_DAYS):
            harvest(dated, sky._light(day_at(dated.site.spot, date), index[number : number + 1]))

    plain = seconds(one_by_one, 1) * 12 * 1000 / PLAIN_DAYS
    print(f"a season of 12,000 days  core {1e3 * warm:7.0f} ms  (budget 2000)")
    print(f"  the first time         {1e3 * cold:7.0f} ms")
    print(f"  days one by one        {1e3 * plain:7.0f} ms   {plain / warm:6.0f} times the core")


def all_ratios() -> None:
    pace_ratio()
    dispatch_ratio()
    season_ratio()
