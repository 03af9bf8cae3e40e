"""One number, one value: what two stations both say of a boat is the same, on boats of many kinds."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import date
from functools import cache
from pathlib import Path
from typing import Any
from unittest import TestCase

import numpy as np
from parhelion.balance.outlook import outlook_of
from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.design import BoatDesign, Rating, Site
from parhelion.formats.boat_file import read_boat
from parhelion.rail.answers import answers_for
from parhelion.stations.registry import BY_NAME

from tests.cases import picture

DEMO = Path(__file__).parents[2] / "demo"
KINDS = json.loads((DEMO / "strangers.json").read_text())
WHERE = Site(name="Lake Hesper", latitude_deg=47.0, longitude_deg=9.0, altitude_m=400)
STRANGERS = ("kayak, loose panel", "inflatable", "slim trimaran, home-built", "pontoon, canopy, no battery")
NAMES = ("whimbrel", "fulmar", "sabine", *STRANGERS)
EXACT = 1e-9
DRAWN = 2e-2  # of a number read off a curve that was drawn at so many points


@cache
def design_of(name: str) -> BoatDesign:
    if name in KINDS:
        return new_boat(Known(name=name, site=WHERE, date=date(2027, 7, 15), **KINDS[name]))
    return read_boat((DEMO / f"{name}.json").read_bytes())


@cache
def shown(name: str, station: str, study: str = "picture") -> Any:
    found = BY_NAME[station].study(study)
    assert found is not None
    return found.about(design_of(name))


@cache
def rail(name: str) -> Any:
    return answers_for(design_of(name))


class AgreeTest(TestCase):
    def near(self, name: str, one: float, other: float, within: float = EXACT) -> None:
        self.assertLessEqual(abs(one - other), within * max(abs(one), abs(other), 1e-6), (name, one, other))

    def on_each(self, check: Callable[[str, BoatDesign], None]) -> None:
        for name in NAMES:
            with self.subTest(name):
                check(name, design_of(name))

    def test_the_sun_only_speed(self):
        def check(name: str, design: BoatDesign) -> None:
            answers, hull, card = rail(name), shown(name, "hull"), shown(name, "hull", "helm-card")
            lines = {line.key: line.speed_mps for line in hull.lines}
            for key, mine, taped in (
                ("noon", answers.sun_only_noon.speed_mps, card.noon_mps),
                ("day", answers.sun_only_steady.speed_mps, card.sun_only_mps),
            ):
                if mine and key in lines:
                    self.near(f"{name} {key} line", mine, lines[key])
                if mine and (design.bank is not None or key == "noon"):
                    self.near(f"{name} {key} card", mine, taped)
            run = answers.days_run_sun
            if answers.sun_only_steady.speed_mps and design.bank is not None and not design.plan.current_mps:
                hours = shown(name, "day").motoring
                self.assertGreater(len(hours), 0)
                motored_h = sum(spell.end - spell.start for spell in hours) / 6
                self.near(
                    f"{name} run", run.distance_m, answers.sun_only_steady.speed_mps * motored_h * 3600, 1e-6
                )

        self.on_each(check)

    def test_watts_at_a_speed(self):
        def check(name: str, design: BoatDesign) -> None:
            hull, card = shown(name, "hull"), shown(name, "hull", "helm-card")
            self.near(f"{name} plan", hull.plan_power_w, hull.chain[0].left_w / hull.chain[0].efficiency)
            for row in card.rows:
                drawn = float(np.interp(row.speed_mps, hull.speed_mps, hull.power_w))
                self.near(f"{name} card at {row.speed_mps:.2f}", row.power_w, drawn, DRAWN)
            for one, after in zip(card.rows, card.rows[1:], strict=False):
                self.assertLess(one.power_w, after.power_w, name)
                self.assertGreaterEqual(one.high_w, one.low_w)
            costs = sum(cost.power_w for cost in hull.costs)
            standing = hull.plan_power_w - hull.chain[0].left_w if "standing" in hull.chain[0].name else 0.0
            self.near(f"{name} costs", costs + standing, hull.plan_power_w, 1e-6)
            if design.bank is None:
                return
            bank = shown(name, "bank")
            self.near(f"{name} bank's plan", bank.plan_power_w, hull.plan_power_w)
            self.near(f"{name} rating", bank.rated_power_w, hull.rated_power_w)
            taped = {row.speed_mps: row.power_w for row in card.rows}
            for speed in bank.speeds:
                if speed.speed_mps in taped:
                    self.near(f"{name} bank at {speed.speed_mps:.2f}", speed.power_w, taped[speed.speed_mps])

        self.on_each(check)

    def test_what_the_panels_bring(self):
        def check(name: str, design: BoatDesign) -> None:
            array, day, strings = shown(name, "array"), shown(name, "day"), shown(name, "strings")
            for said in (array.nameplate_w, day.nameplate_w, sum(rung.nameplate_w for rung in strings.rungs)):
                self.near(f"{name} nameplate", said, design.nameplate_w)
            ledger = day.ledger
            net = ledger.array_wh - ledger.conversion_wh - ledger.clipped_wh
            if not design.plan.stays:  # the Array shows one state all day
                self.near(f"{name} harvest", array.day_wh, net, 1e-6)
            self.near(f"{name} places", sum(place.nameplate_w for place in array.places), design.nameplate_w)
            self.near(f"{name} mass", sum(place.mass_kg for place in array.places), array.mass_kg)
            self.assertEqual(sum(place.panels for place in array.places), len(array.panels))
            grouped = sum(np.sum(group.power_w) for group in day.groups) / 6
            self.near(f"{name} by group", grouped, net, 1e-6)
            if design.bank is not None:
                self.near(f"{name} at the bank", shown(name, "bank").harvest_wh, net, 1e-6)

        self.on_each(check)

    def test_the_day_and_its_bank(self):
        def check(name: str, design: BoatDesign) -> None:
            day, answers = shown(name, "day"), rail(name)
            ledger = day.ledger
            given = ledger.array_wh + ledger.wind_wh + ledger.hydro_wh + ledger.shore_wh + ledger.generator_wh
            given += ledger.discharged_wh
            spent = sum(
                getattr(ledger, f"{term}_wh")
                for term in ("conversion", "clipped", "refused", "curtailed", "house", "motor", "charged",
                             "coulomb", "heat", "converted")
            )  # fmt: skip
            self.near(f"{name} ledger", given, spent, 1e-7)
            self.near(f"{name} motor", ledger.motor_wh, np.sum(day.motor_w) / 6, 1e-6)
            self.near(f"{name} house", ledger.house_wh, np.sum(day.house_w) / 6, 1e-6)
            if design.bank is None:
                self.assertIsNone(answers.bank_at_dusk.soc_frac)
                return
            bank = shown(name, "bank")
            self.near(f"{name} motor at the bank", bank.motor_wh, ledger.motor_wh)
            self.near(f"{name} takes", sum(take.energy_wh for take in bank.takes),
                      bank.house_wh + bank.motor_wh, 1e-6)  # fmt: skip
            low = int(day.sunset_index)
            dusk = np.interp(day.sunset_index, [low, low + 1], day.soc[low : low + 2])
            self.near(f"{name} dusk", answers.bank_at_dusk.soc_frac, float(dusk), 1e-3)
            for tank in bank.tanks:
                self.assertLessEqual(tank.working_wh, tank.usable_wh)
                self.assertLessEqual(tank.usable_wh, tank.held_wh)
                self.assertLessEqual(tank.cut_out_frac, tank.reserve_frac)
            charged = {one.id: one for one in shown(name, "strings").banks}
            for tank in bank.tanks:
                self.near(f"{name} {tank.name}", charged[tank.id].capacity_ah, tank.capacity_ah)
                self.near(f"{name} {tank.name} cut-out", charged[tank.id].cut_out_v, tank.cut_out_v)

        self.on_each(check)

    def test_the_range_at_the_plans_speed(self):
        def check(name: str, design: BoatDesign) -> None:
            if design.bank is None:
                return
            reach, drawn = rail(name).range_at_speed, shown(name, "hull", "range")
            mine = next(one for one in drawn.reaches if one.key == design.plan.sky.value)
            far = np.array([np.nan if d is None else d for d in mine.distance_m], dtype=float)
            at = float(np.interp(design.plan.speed_mps, drawn.speed_mps, far))
            if reach.keeps_up or reach.distance_m is None:
                self.assertTrue(np.isnan(at) or at > 50_000, (name, at))
            elif np.isfinite(at):
                self.near(f"{name} range", reach.distance_m, at, 0.05)

        self.on_each(check)

    def test_what_it_weighs_and_costs(self):
        def check(name: str, design: BoatDesign) -> None:
            hull, fitout = shown(name, "hull"), shown(name, "fitout")
            self.near(f"{name} weights", sum(item.mass_kg for item in hull.weights), hull.displacement_kg)
            self.near(f"{name} afloat", hull.displacement_kg, design.displacement_kg)
            money, systems = fitout.money, fitout.systems
            for what in ("cost", "paid", "ordered", "to_buy", "mass_kg"):
                self.near(f"{name} {what}", getattr(money, what), sum(getattr(one, what) for one in systems))
            self.near(f"{name} bill", money.paid + money.ordered + money.to_buy, money.cost)
            for system in systems:
                lines = [line for line in system.lines if line.cost is not None]
                self.near(f"{name} {system.label}", sum(line.cost for line in lines), system.cost)
            self.assertEqual(money.missing + money.have + money.on_order,
                             sum(len(system.lines) for system in systems))  # fmt: skip
            lines = [line for system in systems for line in system.lines if line.key.startswith("panel")]
            counted = sum(line.quantity for line in lines)
            self.assertEqual(counted, sum(group.count for group in design.fitted_panels), name)

        self.on_each(check)

    def test_the_motors_watts(self):
        def check(name: str, design: BoatDesign) -> None:
            if design.bank is None:
                return
            motors = [one for one in shown(name, "strings").consumers if one.kind == "motor"]
            cabled, most = sum(one.watts for one in motors), shown(name, "hull").rated_power_w
            self.near(f"{name} motors", cabled, outlook_of(design).label_w, 1e-6)
            self.assertLessEqual(most, cabled * (1 + EXACT))  # a thrust label draws less on the move
            if all(drive.rating is not Rating.THRUST for drive in design.drives):
                self.near(f"{name} rating", cabled, most, 1e-6)
            self.assertEqual(len(motors), len(design.drives))

        self.on_each(check)

    def test_a_picture_asked_twice_is_the_same(self):
        def check(name: str, design: BoatDesign) -> None:
            for station in ("hull", "day"):
                self.assertEqual(picture(station, design), shown(name, station))

        self.on_each(check)
