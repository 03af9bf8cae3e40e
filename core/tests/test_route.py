"""Routes against closed forms, an independent programme and the laws they must obey."""

from __future__ import annotations

import itertools
from datetime import datetime
from unittest import TestCase, mock

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from parhelion.route import economy
from parhelion.route.best import Laying, best, cut
from parhelion.route.charge import held_wh, stored_after, watthours
from parhelion.route.held import GONE, Holding, arriving, charge_along, charge_at, fastest, rows_charge, sail
from parhelion.route.home import last_turn_home, muscle_h, needs_home, same_speed_turn
from parhelion.route.stream import Sine, Steady, TidalTable
from parhelion.route.triangle import crab_deg, ground_speed_mps, on_course
from parhelion.route.way import LegAhead, cubic, laid
from parhelion.tide.harmonic import Constituent, heights_m, left_out, turnings
from parhelion.tide.stations import high_waters, nearest, ranges_m, station_of

from tests.cases import cases
from tests.twins.passage import trade

KN, NM = 1852 / 3600, 1852.0
CASES = cases("passage")


def case(name):
    return CASES[name]["inputs"], CASES[name]["expected"], CASES[name]["tolerance"]


def stream(said):
    if said is None:
        return None
    if said.get("kind") == "sine":
        amp, mean = said["amp_kn"] * KN, said.get("mean_kn", 0) * KN
        return Sine(said["set_deg"], amp, said["max_at_h"], said["period_h"], mean)
    return Steady(said["set_deg"], said["rate_kn"] * KN)


def sun_w(said, hours, factor=1.0):
    """Watts constant within ten minutes, by the half sine at their middle."""
    middle = (np.floor(hours * 6) + 0.5) / 6
    watts = said["peak_W"] * np.sin(np.pi * (middle - said["rise_h"]) / (said["set_h"] - said["rise_h"]))
    return factor * np.where((middle > said["rise_h"]) & (middle < said["set_h"]), watts, 0.0)


def bank_of(said):
    share = {"charge_efficiency": said["ec"], "discharge_efficiency": said["ed"]}
    return watthours(said["Wh"], said["reserve"] * said["Wh"], **share), said["start"] * said["Wh"]


def boat_of(said, wind=None):
    more = {"efficiency": wind["eta"], "area_m2": wind["CdA_m2"]} if wind else {}
    return cubic(said["a"] / KN**3, said.get("idle_W", 0), said["v_max"] * KN, **more)


def laying_of(said, start_h=None, step_s=60.0):
    """A case's legs laid over minutes."""
    start = said["start_h"] if start_h is None else start_h
    steps = round(said["horizon_h"] * 3600 / step_s)
    hours = start + (np.arange(steps) + 0.5) * step_s / 3600
    legs = []
    for leg in said["legs"]:
        gate = leg.get("gate")
        opens = [(h - gate["half_h"], h + gate["half_h"]) for h in gate["hw_h"]] if gate else None
        limit = leg.get("limit_kn")
        legs.append(
            LegAhead(leg["nm"] * NM, leg["course_deg"], stream(leg.get("stream")), limit and limit * KN,
                     60 * leg.get("stop_min", 0), 0.0, opens)
        )  # fmt: skip
    wind = said.get("wind")
    blown = (wind["from_deg"], wind["m_s"]) if wind else ()
    house = np.full(steps, float(said["bank"]["house_W"]))
    return Laying(legs, start, step_s, sun_w(said["sun"], hours), house, *blown)


class SumsTest(TestCase):
    def test_the_triangle_and_where_there_is_none(self):
        said, wanted, _ = case("tide.triangle")
        along, across = on_course(0.0, -said["rate_kn"], said["course_deg"])
        self.assertAlmostEqual(float(ground_speed_mps(said["V_kn"], along, across)), wanted["sog_kn"], 6)
        self.assertAlmostEqual(float(crab_deg(said["V_kn"], across)), wanted["crab_deg"], 4)
        said, wanted, _ = case("tide.impossible")
        for row, possible, sog in zip(said["rows"], wanted["possible"], wanted["sog_kn"], strict=True):
            parts = Steady(row["set_deg"], row["rate_kn"]).at(0.0)
            made = float(ground_speed_mps(row["V_kn"], *on_course(*parts, row["course_deg"])))
            self.assertEqual(np.isfinite(made) and made > 1e-9, possible)
            if possible:
                self.assertAlmostEqual(made, sog, 6)

    def test_a_tidal_table_between_hours_and_beyond_springs(self):
        said, wanted, tolerance = case("tide.table")
        given_ = said["stream"]
        table = TidalTable(
            given_["rows"], given_["hw_h"], given_["range_m"], given_["springs_m"], given_["neaps_m"]
        )
        along, across = on_course(*table.at(said["at_h"]), said["course_deg"])
        np.testing.assert_allclose(along, wanted["along_kn"], atol=tolerance["abs_kn"])
        np.testing.assert_allclose(across, wanted["across_kn"], atol=tolerance["abs_kn"])

    def test_what_costs_least(self):
        _, wanted, _ = case("rule.best_against")
        for key, idle in (("no_idle", 0), ("idle", 60)):
            found = economy.cheapest_against(12, 1, idle)
            np.testing.assert_allclose(found, list(wanted[key].values()), rtol=1e-6)
        hours, spent = economy.there_and_back(9, 4, 1.2, 12)
        wanted = case("rule.there_and_back")[1]
        np.testing.assert_allclose([hours, spent], [wanted["stream_h"], wanted["stream_Wh"]], rtol=1e-6)
        wanted = case("rule.legs_with_and_against")[1]["least"]
        speeds, spent = economy.least_over_legs([8, 8], [1, -1], 4, 12)
        np.testing.assert_allclose([*speeds, spent], [*wanted["V_kn"], wanted["Wh"]], rtol=1e-6)
        said, wanted, _ = case("limit.lock")
        speeds, spent = economy.least_over_legs(
            said["nm"], [0] * 3, 5 - 1 / 3, 12, limits=said["limit_kn_over_ground"]
        )
        np.testing.assert_allclose([*speeds, spent], [*wanted["V_kn"], wanted["Wh"]], rtol=1e-5)
        said, wanted, _ = case("hump.mix")
        mix = economy.cheapest_mix(said["table_V_kn_W"], said["nm"] / said["hours"])
        np.testing.assert_allclose(
            [mix.slow, mix.fast, mix.fast_share, mix.power_w * said["hours"]],
            [5, 8, 1 / 3, wanted["least_Wh"]],
        )
        wanted = case("idle.duty")[1]
        np.testing.assert_allclose(
            economy.duty(12, 90, 9, 9),
            [wanted["V_kn"], wanted["hours_under_way"], wanted["least_Wh"]],
            rtol=1e-6,
        )
        with self.assertRaises(ValueError):
            economy.least_over_legs([5], [0], 1, 12, limits=[3])

    def test_a_stop_charges_until_the_bank_takes_less(self):
        bank = watthours(5000, 0, charge_efficiency=0.96, accept_w=1200, knee=0.8)
        whole = stored_after(3600, 1500, 1.25, bank)
        self.assertAlmostEqual(whole, case("stop.charge")[1]["at_departure_Wh"], 3)
        by_parts = 3600.0
        for _ in range(75):
            by_parts = stored_after(by_parts, 1500, 1 / 60, bank)
        self.assertAlmostEqual(by_parts, whole, 6)  # the step does not matter

    def test_the_last_turn_by_the_sums_alone_and_home_by_hand(self):
        wanted = case("turn_back.constant")[1]
        for key, home in (("cheapest_home", None), ("same_speed_home", 4.5)):
            found = economy.last_turn(5600, 4.5, 0.8, 12, 40, home)
            np.testing.assert_allclose(
                found[1:], [wanted[key][k] for k in ("turn_h", "turn_nm", "home_h")], rtol=1e-6
            )
        said, wanted, tolerance = case("home.no_motor")
        speed = economy.muscle_speed(80, 0.55, 14, 0.45)
        self.assertAlmostEqual(speed, wanted["V_kn"], 6)
        sine = said["stream_on_the_way_home"]
        home = LegAhead(5 * NM, 0, Sine(0, sine["amp_kn"] * KN, sine["max_at_h"], sine["period_h"]))
        way = laid([home], 14.0, 20.0, np.zeros(4320), np.zeros(4320))
        for key, anchor in (("hours_anchoring_when_carried_back", True), ("hours_never_anchoring", False)):
            self.assertAlmostEqual(
                muscle_h(way, speed * KN, may_anchor=anchor), wanted[key], delta=tolerance["abs_h"]
            )


class HeldTest(TestCase):
    def test_what_holds_one_thing_all_the_way(self):
        said, wanted, _ = case("passage.legs")
        way, boat = laying_of(said).over(60.0), boat_of(said["boat"])
        bank, start = bank_of(said["bank"])
        for holding, key, name, top, unit in (
            (Holding.WATTS, "constant_throttle", "W", boat.power_w[-2], 1),
            (Holding.THROUGH_WATER, "constant_through_water", "V_kn", 8 * KN, KN),
            (Holding.OVER_GROUND, "constant_over_ground", "sog_kn", 11 * KN, KN),
        ):
            value, found = fastest(way, boat, holding, bank, start, top)
            self.assertAlmostEqual(value / unit, wanted[key][name], delta=0.002 * wanted[key][name])
            self.assertAlmostEqual(8 + found.arrives_h, wanted[key]["earliest_h"], delta=0.005)

    def test_a_head_wind_there_and_home(self):
        said, wanted, _ = case("wind.plans")
        way, boat = laying_of(said).over(60.0), boat_of(said["boat"], said["wind"])
        bank, start = bank_of(said["bank"])
        for holding, key, top in (
            (Holding.WATTS, "constant_throttle", 5000), (Holding.THROUGH_WATER, "constant_through_water", 8 * KN),
            (Holding.OVER_GROUND, "constant_over_ground", 8 * KN),
        ):  # fmt: skip
            _, found = arriving(way, boat, holding, 4.0, top)
            self.assertAlmostEqual(
                charge_at(way, charge_along(way, found, bank, start), 4.0), wanted[key]["Wh_at"], delta=1
            )
        self.assertAlmostEqual(
            best(laying_of(said), boat, bank, start, 4.0).charge_wh, wanted["best"]["Wh_at"], delta=1
        )

    def test_one_speed_where_only_the_hour_counts(self):
        said, wanted, tolerance = case("time_only.earliest")
        sine = said["stream"]
        leg = LegAhead(22 * NM, 0, Sine(0, sine["amp_kn"] * KN, sine["max_at_h"], sine["period_h"]))
        way = laid([leg], 7.0, 60.0, np.zeros(600), np.zeros(600))
        value, found = fastest(
            way, cubic(12 / KN**3, 0, 9 * KN), Holding.THROUGH_WATER, watthours(5000, 0), 5000, 9 * KN
        )
        self.assertAlmostEqual(7 + found.arrives_h, wanted["arrive_h"], delta=tolerance["abs_h"])
        self.assertAlmostEqual(value / KN, wanted["V_kn"], delta=0.005)

    def test_departures_every_half_hour(self):
        said, wanted, tolerance = case("departure.scan")
        said = {**said, "horizon_h": 30.0}
        way, boat = laying_of(said).over(60.0), boat_of(said["boat"])
        bank, start = bank_of(said["bank"])
        for k, (arrives, charge) in enumerate(
            zip(wanted["constant"]["arrive_h"], wanted["constant"]["Wh"], strict=True)
        ):
            found = sail(way, boat, Holding.THROUGH_WATER, 4.5 * KN, 0.5 * k)
            self.assertAlmostEqual(found.arrives_h, arrives, delta=tolerance["constant"]["abs_h"])
            begun = way._replace(house_w=np.where(np.arange(1800) < 30 * k, 0.0, way.house_w))
            found.rows[: 30 * k, 1] = 0.0
            held = charge_along(begun, found, bank, start)
            self.assertAlmostEqual(
                charge_at(way, held, arrives), charge, delta=tolerance["constant"]["abs_Wh"]
            )

    def test_a_plan_held_through_two_hundred_skies(self):
        said, wanted, _ = case("ensemble.days")
        made = said["sun_generator"]
        x, skies = made["seed"], []

        def draw():
            nonlocal x
            x = (1103515245 * x + 12345) % 2**31
            return x / 2**31

        shape = sun_w(made, (np.arange(144) + 0.5) / 6)
        for _ in range(made["n"]):
            level, state, row = made["lo"] + (made["hi"] - made["lo"]) * draw(), 1.0, []
            for _ in range(144):
                if draw() < made["flip"]:
                    state = made["dark"] if state == 1.0 else 1.0
                row.append(level * state)
            skies.append(np.array(row) * shape)
        np.testing.assert_allclose([sky.sum() / 6 for sky in skies[:5]], wanted["first_days_Wh"], rtol=1e-6)
        whole = {**said, "horizon_h": 10.0, "sun": made}
        way, boat = laying_of(whole).over(60.0), boat_of(said["boat"])
        bank, start = bank_of(said["bank"])
        found = sail(way, boat, Holding.THROUGH_WATER, 4.2 * KN)
        self.assertAlmostEqual(8 + found.arrives_h, wanted["arrive_h"], delta=0.01)
        lit = np.repeat(np.stack(skies), 10, axis=1)[:, 480 : 480 + 600]
        held = held_wh(found.rows[:, 0], lit, way.house_w, start, 1 / 60, bank)
        last = found.arrives_h * 60
        end = np.array([np.interp(last, np.arange(601), one) for one in held])
        lowest = np.minimum(held[:, : int(last) + 1].min(axis=1), end)
        self.assertAlmostEqual(
            float((lowest >= bank.reserve_wh).mean()), wanted["share_above_reserve"], delta=0.01
        )
        np.testing.assert_allclose(
            np.percentile(end, [10, 50, 90]), wanted["arrival_Wh_p10_p50_p90"], atol=18
        )


SHORTEST_STRETCH_NM = 1.4  # that a leg is cut into


class BestTest(TestCase):
    def test_the_earliest_and_the_most_at_an_hour(self):
        for name, hours, watts in (("passage.legs", 0.01, 30), ("still.sun", 0.01, 5), ("gate.bar", 0.01, 5)):
            said, wanted, _ = case(name)
            laying, boat = laying_of(said), boat_of(said["boat"])
            bank, start = bank_of(said["bank"])
            first = best(laying, boat, bank, start)
            self.assertAlmostEqual(
                said["start_h"] + first.arrives_h, wanted["earliest_h"], delta=hours, msg=name
            )
            most = best(laying, boat, bank, start, said["arrive_h"] - said["start_h"])
            self.assertAlmostEqual(most.charge_wh, wanted["most_Wh_at"], delta=watts, msg=name)

    def test_the_best_departures(self):
        said, wanted, tolerance = case("departure.scan")
        bank, start = bank_of(said["bank"])
        for leaves, arrives in zip(
            said["best_plan_departures_h"], wanted["best_plan"]["earliest_h"], strict=True
        ):
            found = best(laying_of(said, leaves), boat_of(said["boat"]), bank, start, finest_s=60.0)
            self.assertAlmostEqual(leaves + found.arrives_h, arrives, delta=tolerance["best_plan"]["abs_h"])

    def test_one_sweep_is_the_plain_loops_trade(self):
        """Legs with a turning stream, a limit, a stop at a charging berth and a gate; a bank that nears full."""
        legs = [
            LegAhead(3 * NM, 90, Sine(90, 0.6, 9.0), None, 900, 800.0),
            LegAhead(2 * NM, 20, Steady(60, 0.3), 1.4, 0, 0, [(8.2, 10.5), (11.5, 13)]),
        ]
        lit = 300 + 250 * np.sin(np.arange(72) / 11)
        laying = Laying(legs, 8.0, 300.0, lit, np.full(72, 45.0))
        bank = watthours(2200, 600, charge_efficiency=0.95, discharge_efficiency=0.97, accept_w=500, knee=0.8)
        boat, way = cubic(14 / KN**3, 15, 6 * KN), laying.over(300.0)
        pieces = cut(way.length_m, 1 * NM)
        found = best(laying, boat, bank, 1900.0, finest_s=300.0, stretch_m=1 * NM, slowest_mps=0.4)
        plain = trade(way, boat, bank, pieces.length_m, pieces.leg, 1900.0, 0.4)
        np.testing.assert_array_equal(np.isfinite(found.trade), np.isfinite(plain))
        reached = np.isfinite(plain)
        np.testing.assert_allclose(found.trade[reached], plain[reached], atol=0.5)  # its taper is in 50 parts

    def test_a_way_of_many_days_is_looked_at_in_longer_steps_and_comes_out_the_same(self):
        said, _, _ = case("passage.legs")
        laying, boat = laying_of(said), boat_of(said["boat"])
        bank, start = bank_of(said["bank"])
        usual = best(laying, boat, bank, start, finest_s=60.0)
        for cells, off in ((2e5, 0.02), (3e4, 0.1)):  # the second so few that the first sweep's plan stands
            with mock.patch("parhelion.route.best.MOST_CELLS", cells):
                found = best(laying, boat, bank, start, finest_s=60.0)
            self.assertEqual(found.way.step_s, 60.0)
            self.assertAlmostEqual(found.arrives_h, usual.arrives_h, delta=off * usual.arrives_h, msg=cells)
            sailed = found.sailed(boat)
            self.assertAlmostEqual(sailed[-1, GONE], laying.over(60.0).length_m.sum(), delta=1)
            held = rows_charge(found.way, sailed, bank, start)
            self.assertGreater(held.min(), bank.reserve_wh - 0.005 * bank.full_wh)
            self.assertAlmostEqual(found.trade[found.end_step], found.charge_wh)

    def test_the_last_turn_home(self):
        said, wanted, _ = case("turn_back.tide")
        bank, start = bank_of(said["bank"])
        boat, begins, by = boat_of(said["boat"]), said["start_h"], said["home_by_h"]
        steps = round((by - begins) * 60)
        hours = begins + (np.arange(steps) + 0.5) / 60
        lit, house = sun_w(said["sun"], hours), np.full(steps, 60.0)
        tide, far = stream(said["stream"]), 60 * NM
        out = laid([LegAhead(100 * NM, 90, tide)], begins, 60.0, lit, house)
        sailed = sail(out, boat, Holding.THROUGH_WATER, 4.5 * KN)
        held, gone = charge_along(out, sailed, bank, start), np.concatenate([[0.0], sailed.rows[:, GONE]])
        at = np.arange(0, steps, 5)
        at = at[gone[at] < far]
        way = Laying(
            [LegAhead(far, 270, tide)], begins, 60.0, lit * said["poor_sky_factor_on_the_way_home"], house
        )
        turn = last_turn_home(
            at / 60, gone[at], held[at], needs_home(way.over(120.0), boat, bank, by - begins)
        )
        self.assertAlmostEqual(begins + turn.turn_h, wanted["best_plan_home"]["turn_h"], delta=0.02)
        self.assertAlmostEqual(turn.out_m / NM, wanted["best_plan_home"]["turn_nm"], delta=0.1)
        same = same_speed_turn(at / 60, gone[at], held[at], way.over(60.0), boat, bank, 4.5 * KN, by - begins)
        self.assertAlmostEqual(begins + same.turn_h, wanted["same_speed_home"]["turn_h"], delta=0.02)
        self.assertAlmostEqual(begins + same.home_h, wanted["same_speed_home"]["home_h"], delta=0.03)

    @given(st.floats(0.2, 0.9), st.floats(-0.5, 0.5), st.floats(4, 14), st.floats(0.05, 0.3))
    def test_laws(self, start, rate, nm, reserve):
        """A fair stream is never later, more reserve never earlier; the best is no later than any held plan, and
        what it says it holds is what it holds when it is sailed."""
        boat = cubic(12 / KN**3, 20, 8 * KN)
        lit, house = np.full(600, 250.0), np.full(600, 40.0)

        def plan(kept, drift):
            laying = Laying([LegAhead(nm * NM, 0, Steady(0, drift))], 8.0, 60.0, lit, house)
            bank = watthours(4000, 4000 * kept, charge_efficiency=0.95, discharge_efficiency=0.97)
            return laying, bank, best(laying, boat, bank, 4000 * start, finest_s=60.0)

        if start <= reserve + 0.1:
            return
        laying, bank, found = plan(reserve, rate)
        _, _, kinder = plan(reserve, abs(rate))
        _, _, freer = plan(reserve / 2, rate)
        if found is None:
            return
        self.assertLessEqual(kinder.arrives_h, found.arrives_h + 1 / 60)
        self.assertLessEqual(freer.arrives_h, found.arrives_h + 1 / 60)
        way = laying.over(60.0)
        held = fastest(way, boat, Holding.THROUGH_WATER, bank, 4000 * start, 8 * KN)
        if held is not None:
            whole_steps = 1 + np.ceil(
                nm / SHORTEST_STRETCH_NM
            )  # a stretch takes whole minutes: one each at most
            self.assertLessEqual(found.arrives_h, held[1].arrives_h + whole_steps / 60)
        rows = found.sailed(boat)
        again = held_wh(rows[:, 0], rows[None, :, 1], found.way.house_w, 4000 * start, 1 / 60, bank)[0]
        self.assertAlmostEqual(again[found.end_step], found.charge_wh, delta=1e-6)
        self.assertGreaterEqual(again[: found.end_step + 1].min(), bank.reserve_wh - 1e-6)


class ReachTest(TestCase):
    """How far she may go in all: against the furthest of all constant speeds, and its laws."""

    WH, HOURS, STEPS = 4000.0, 10.0, 300

    def needs(self, sun_w=0.0, by_h=HOURS):
        boat = cubic(12 / KN**3, 20, 6 * KN)
        bank = watthours(self.WH, 0.3 * self.WH, charge_efficiency=0.95, discharge_efficiency=0.97)
        lit, house = np.full(self.STEPS, sun_w), np.full(self.STEPS, 40.0)
        way = Laying([LegAhead(40 * NM, 90)], 8.0, 120.0, lit, house).over(120.0)
        return boat, bank, needs_home(way, boat, bank, by_h, may_wait=False, stretch_m=40 * NM / 30)

    def furthest(self, boat, bank, held, hours, left_h, sun_w=0.0):
        """By brute force: every constant speed for as long as charge and hours last, from then on."""
        best_m = 0.0
        for knots in np.arange(0.6, 6.0, 0.02):
            drawn = 12 * knots**3 + 20 + 40 - sun_w
            lasts = np.inf if drawn <= 0 else (held - bank.reserve_wh) * bank.discharge_efficiency / drawn
            best_m = max(best_m, knots * KN * 3600 * min(lasts, left_h - hours))
        return best_m

    def test_it_is_the_furthest_constant_speed_in_the_dark(self):
        boat, bank, needs = self.needs()
        for share in (0.45, 0.7, 1.0):
            for hours in (0.0, 3.0, 7.5):
                found = needs.reach_m(share * self.WH, hours)
                wanted = self.furthest(boat, bank, share * self.WH, hours, self.HOURS)
                self.assertLessEqual(found, 1.005 * wanted)
                self.assertGreaterEqual(found, 0.99 * wanted - 40 * NM / 30, msg=(share, hours))

    def test_more_charge_sun_or_time_never_reaches_less_and_the_reserve_reaches_nothing(self):
        reached = {}
        for sun_w in (0.0, 150.0, 400.0):
            for by_h in (6.0, 10.0):
                needs = self.needs(sun_w, by_h)[2]
                for share in (0.3, 0.5, 0.8, 1.0):
                    reached[sun_w, by_h, share] = needs.reach_m(share * self.WH, 1.0)
        for (sun_w, by_h, share), metres in reached.items():
            for (more_sun, more_h, more), further in reached.items():
                if more_sun >= sun_w and more_h >= by_h and more >= share:
                    self.assertGreaterEqual(further, metres - 1.0)
        self.assertEqual(reached[0.0, 10.0, 0.3], 0.0)
        self.assertEqual(self.needs()[2].reach_m(self.WH, 10.0), 0.0)  # the time is over
        self.assertEqual(self.needs()[2].reach_m(self.WH, 99.0), 0.0)


class TideTest(TestCase):
    def test_a_week_of_high_and_low_waters(self):
        for name in ("tide.week.semidiurnal", "tide.week.diurnal"):
            said, wanted, _ = case(name)
            known = [Constituent(c["name"], c["amplitude"], c["phase"]) for c in said["constituents"]]
            begins, ends = (datetime.fromisoformat(said[k].replace("Z", "+00:00")) for k in ("from", "to"))
            found = turnings(known, said["z0_m"], begins, ends)
            self.assertEqual(left_out(known), [])
            for at, height, kind in wanted["extremes"]:
                moment = datetime.fromisoformat(at.replace("Z", "+00:00"))
                near = min(found, key=lambda one: abs(one.at - moment))
                self.assertLess(abs((near.at - moment).total_seconds()), 20)
                self.assertAlmostEqual(near.height_m, height, delta=0.002)
                self.assertEqual(near.kind, kind)
            kinds = [one.kind for one in found]
            self.assertTrue(all(a != b for a, b in itertools.pairwise(kinds)))  # a low between two highs

    def test_what_is_not_known_is_named_and_adds_nothing(self):
        known = [Constituent("M2", 1.0, 0.0), Constituent("M1", 5.0, 0.0)]
        self.assertEqual(left_out(known), ["M1"])
        at = np.linspace(0, 1e6, 7)
        np.testing.assert_array_equal(heights_m(known, 0.0, at), heights_m(known[:1], 0.0, at))

    def test_stations_exported_at_set_up_predict_what_the_reference_does(self):
        """Boston's week by its id, within the 10 minutes and 10 cm between sources; a secondary one follows its reference."""
        said, wanted, _ = case("tide.week.semidiurnal")
        (away, station), *_ = nearest(said["latitude"], said["longitude"], 1)
        self.assertEqual((station.name, away < 2_000), ("Boston", True))
        begins, ends = (datetime.fromisoformat(said[k].replace("Z", "+00:00")) for k in ("from", "to"))
        found = high_waters(station, begins, ends)
        highs = [
            (datetime.fromisoformat(at.replace("Z", "+00:00")), h)
            for at, h, kind in wanted["extremes"]
            if kind == "high"
        ]
        self.assertEqual(len(found), len(highs))
        for one, (at, height) in zip(found, highs, strict=True):
            self.assertLess(abs((one.at - at).total_seconds()), 600)
            self.assertAlmostEqual(one.height_m, height, delta=0.1)
            self.assertTrue(2 < one.range_m < 4.2)
        springs, neaps = ranges_m(station)
        self.assertAlmostEqual(springs, 2 * (1.371 + 0.208), delta=0.05)
        self.assertLess(neaps, springs)
        second = station_of("noaa/1610367")
        first = high_waters(station_of(second.reference_id), begins, ends)
        after = high_waters(second, begins, ends)
        near = min(first, key=lambda one: abs(one.at - after[3].at))
        self.assertEqual((after[3].at - near.at).total_seconds(), -16 * 60)
        self.assertAlmostEqual(after[3].height_m, 0.77 * near.height_m, delta=0.001)
        self.assertIsNone(station_of("nowhere"))
