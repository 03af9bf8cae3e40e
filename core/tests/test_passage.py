"""A boat's passage: what it tells, the laws it obeys, and boats of every kind on it."""

from __future__ import annotations

import io
import json
import math
from itertools import pairwise
from pathlib import Path
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.cli import main
from parhelion.design import BoatDesign
from parhelion.design.passage import Leg
from parhelion.errors import InvalidDesign, UnreadableFile
from parhelion.formats.boat_file import design_from, read_boat
from parhelion.formats.route_file import read_route, written_route
from parhelion.stations.passage.card_pdf import passage_card
from parhelion.stations.passage.picture import passage_picture, ways_shown
from parhelion.stations.passage.tides import tides_nearby
from parhelion.stations.passage.voyage import sure, voyage_of
from parhelion.stations.registry import BY_NAME

from tests.cases import boat, findings_of

DEMO = Path(__file__).resolve().parents[2] / "demo"
METHODS = Path(__file__).resolve().parents[2] / "docs" / "methods"
NM = 1852


def leg(id_="a", nm=4.0, course=90, **more):
    return {"id": id_, "name": f"Mark {id_}", "distance_m": nm * NM, "course_deg": course, **more}


def river(rate, set_deg=270):
    return {"kind": "steady", "set_deg": set_deg, "rate_mps": rate}


def tidal(rate, strongest=-3):
    return {"kind": "turning", "set_deg": 90, "rate_mps": rate, "strongest_h": strongest}


def planned(*legs, boat_changes=None, **said):
    """The launch of the tests on a passage."""
    base = boat(**(boat_changes or {})).model_dump(mode="json")
    base["passage"] = {"legs": list(legs) or [leg()], **said}
    return design_from(base)


TIDE = {"high_water": "12:00:00", "springs_m": 4, "neaps_m": 2}
FAR = {"home_again": False}
FINDINGS = {  # by id: a passage on which it fires, one on which it is silent
    "stands": (planned(leg(stream=river(2.0)), home_again=False), planned()),
    "reserve": (planned(leg(nm=30), speed_mps=2.4, start_charge_frac=0.4), planned()),
    "poor_day": (
        planned(leg(nm=9), speed_mps=2.0, start_charge_frac=0.62, boat_changes={"plan__sky": "overcast"}), planned()
    ),
    "home": (planned(), planned(leg(nm=30), speed_mps=2.4, start_charge_frac=0.4)),
    "late": (planned(in_by="09:00:00"), planned(in_by="20:00:00")),
    "no_turn": (planned(start_charge_frac=0.2), planned()),
    "turn_back": (planned(leg(nm=16), start_charge_frac=0.45, boat_changes={"plan__sky": "overcast"}), planned()),
    "no_window": (planned(leg(nm=60), in_by="12:00:00", speed_mps=2.0), planned()),
    "window": (planned(leaves_at="13:00:00", in_by="14:00:00"), planned()),
    "better_hour": (planned(leaves_at="07:00:00", start_charge_frac=0.5), planned(start_charge_frac=1.0)),
    "waits": (
        planned(leg(mark="gate", open_h=1), leg("b", 2), tide=TIDE, leaves_at="06:00:00"),
        planned(leg(mark="gate", open_h=6), leg("b", 2), tide=TIDE, leaves_at="10:00:00"),
    ),
    "keep_off/rock": (
        planned(leg(nm=4), keep_off=[{"id": "rock", "name": "Rock", "bearing_deg": 88, "distance_m": 3_000, "clear_m": 200}]),
        planned(leg(nm=4), keep_off=[{"id": "rock", "name": "Rock", "bearing_deg": 88, "distance_m": 9_000, "clear_m": 200}]),
    ),
    "ramp": (
        planned(leg(mark="ramp", open_h=1), tide=TIDE, leaves_at="06:00:00", **FAR),
        planned(leg(mark="ramp", open_h=6), tide=TIDE, leaves_at="10:00:00", **FAR),
    ),
    "too_fast": (planned(speed_mps=9.0), planned()),
    "too_much": (planned(pace="throttle", throttle_w=50_000), planned(pace="throttle", throttle_w=300)),
    "against": (planned(leg(stream=river(0.6)), **FAR), planned(leg(stream=river(0.6, 90)), **FAR)),
    "wind": (planned(boat_changes={"plan__wind_mps": 6}), planned(wind_from_deg=90, boat_changes={"plan__wind_mps": 6})),
    "dark": (planned(leaves_at="21:00:00"), planned()),
    "one_motor": (planned(), planned(hand_mps=1.0)),
    "by_hand": (planned(hand_mps=1.0), planned()),
    "by_hand_never": (planned(leg(stream=river(1.2, 90)), hand_mps=0.8), planned(hand_mps=0.8)),
    "by_sail": (
        planned(boat_changes={"pushes": [{"id": "s", "kind": "sail", "hours_per_day": 2, "from_clock": "09:00:00"}]}),
        planned(),
    ),
    "under_way": (planned(leg(nm=8), now={"at": "09:30:00", "gone_m": 3 * NM, "charge_frac": 0.6}), planned()),
    "far_station": (planned(tide={"station_id": "noaa/8443970"}), planned(tide=TIDE)),
    "no_station": (planned(tide={"station_id": "nobody/1"}), planned(tide={"station_id": "noaa/8443970"})),
    "wind_ends_it": (planned(leg(nm=8), start_charge_frac=0.42, speed_mps=1.9), planned(speed_mps=9.0, in_by="08:30:00")),
    "tomorrow": (
        planned(leg(mark="gate", open_h=1.2), leg("b", 1), leaves_at="11:30:00", in_by="17:30:00", speed_mps=1.8,
                tide={"station_id": "noaa/8443970"},
                boat_changes={"site__latitude_deg": 42.35, "site__longitude_deg": -71.05, "plan__date": "2027-07-04"}),
        planned(),
    ),
    "go": (planned(), None),
}  # fmt: skip


class TellsTest(TestCase):
    def test_each_fires_and_each_is_silent(self):
        for key, (loud, quiet) in FINDINGS.items():
            with self.subTest(key):
                found = {finding.id: finding for finding in findings_of("passage", loud)}
                self.assertIn(f"passage_{key}", found)
                warned = {finding.id for finding in BY_NAME["passage"].warned(loud)}
                self.assertEqual(warned, {item.id for item in found.values() if item.level == "warn"})
                said = found[f"passage_{key}"]
                self.assertTrue(said.why.method and said.why.source)
                self.assertTrue((METHODS / f"{said.why.doc}.md").is_file())
                if quiet is not None:
                    self.assertNotIn(f"passage_{key}", {item.id for item in findings_of("passage", quiet)})

    def test_nothing_is_told_of_no_passage(self):
        self.assertEqual(findings_of("passage", boat()), [])
        self.assertIsNone(passage_picture(boat()))
        self.assertIsNone(sure(boat()))

    def test_what_cannot_be_is_refused_beside_its_entry(self):
        for said, field in (
            ({"legs": []}, "/passage/legs"),
            ({"legs": [leg(nm=0)]}, "/passage/legs/0/distance_m"),
            ({"legs": [leg(nm=500)]}, "/passage/legs/0/distance_m"),
            ({"legs": [leg(course=361)]}, "/passage/legs/0/course_deg"),
            ({"legs": [leg(stop_h=125)]}, "/passage/legs/0/stop_h"),
            ({"legs": [leg(), leg()]}, "/passage/legs"),
            ({"legs": [leg(stream=tidal(1))]}, "/passage/tide"),
            ({"legs": [leg(open_h=2)], "tide": TIDE}, "/passage/legs/0/mark"),
            ({"legs": [leg()], "pace": "throttle"}, "/passage/throttle_w"),
            ({"legs": [leg()], "tide": {**TIDE, "neaps_m": 5}}, "/passage/tide/neaps_m"),
            ({"legs": [leg(stream={"kind": "table", "set_deg": 0, "rate_mps": 1})], "tide": TIDE},
             "/passage/legs/0/stream/hours"),
        ):  # fmt: skip
            with self.assertRaises(InvalidDesign) as caught:
                design_from({**boat().model_dump(mode="json"), "passage": said})
            self.assertIn(field, [problem.field for problem in caught.exception.problems])


class PlansTest(TestCase):
    def test_in_still_water_out_and_home_is_the_closed_form(self):
        design = planned(leg(nm=5), speed_mps=2.0)
        plan = voyage_of(design).plan
        self.assertAlmostEqual(plan.arrives_h - plan.leaves_h, 10 * NM / 2.0 / 3600, delta=1e-6)
        for mark, shown in zip(voyage_of(design).ahead.marks, passage_picture(design).marks, strict=True):
            self.assertAlmostEqual(shown.arrives_h, 8 + mark.passed_m / 2.0 / 3600, delta=0.02)

    def test_the_scan_says_of_its_hour_what_the_plan_says(self):
        design = planned(leg(stream=tidal(0.5)), leg("b", 3, 45), tide=TIDE, leaves_at="09:30:00")
        picture = passage_picture(design)
        same = next(one for one in picture.departures if one.leaves_h == 9.5)
        self.assertAlmostEqual(same.arrives_h, picture.arrives_h, delta=1e-9)
        self.assertAlmostEqual(same.arrival_soc_frac, picture.arrival_soc_frac, delta=1e-9)

    def test_the_best_are_no_worse_than_what_is_held(self):
        design = planned(leg(stream=tidal(0.6)), tide=TIDE, start_charge_frac=0.6, in_by="19:00:00")
        ways = {way.pace: way for way in ways_shown(design).ways}
        self.assertTrue(ways["speed"].chosen)
        self.assertLessEqual(ways["earliest"].arrives_h, ways["speed"].arrives_h + 1 / 60)
        self.assertIsNone(ways["earliest"].trouble)
        most = next(one for one in voyage_of(design).ways if one.pace == "most")
        self.assertGreaterEqual(most.soc_at(19.0), voyage_of(design).plan.soc_at(19.0) - 0.01)

    @settings(max_examples=12)
    @given(st.floats(0.1, 0.7), st.floats(0.4, 0.9), st.floats(3, 9))
    def test_laws(self, rate, start, nm):
        """A fair stream is never later; more reserve is no later a turn; less charge is no later a turn."""

        def asked(drift, soc, reserve):
            changes = {"plan__sky": "overcast", "banks__0__reserve_frac": reserve}
            stream = river(abs(drift), 90 if drift > 0 else 270)
            return voyage_of(planned(leg(nm=nm, stream=stream), start_charge_frac=soc, boat_changes=changes))

        fair, foul = (voyage_of(planned(leg(nm=nm, stream=river(rate, to)), **FAR)) for to in (90, 270))
        self.assertLessEqual(fair.plan.arrives_h, foul.plan.arrives_h)

        def turns(voyage):
            return -1.0 if voyage.turn is None else voyage.turn.hours

        self.assertLessEqual(turns(asked(rate, start, 0.4)), turns(asked(rate, start, 0.25)) + 1e-6)
        self.assertLessEqual(turns(asked(rate, start - 0.05, 0.3)), turns(asked(rate, start, 0.3)) + 1e-6)

    def test_a_speed_limit_is_kept_and_a_lock_stops_her(self):
        design = planned(leg(limit_mps=1.2, mark="lock", stop_h=0.5), leg("b", 3), speed_mps=2.0, **FAR)
        picture = passage_picture(design)
        self.assertAlmostEqual(picture.legs[0].ground_mps, 1.2, 6)
        self.assertAlmostEqual(picture.marks[1].leaves_h - picture.marks[1].arrives_h, 0.5, delta=0.02)
        self.assertEqual(picture.ribbon.ground_mps.count(0.0) > 0, True)

    def test_a_charging_stop_fills_the_bank(self):
        stops = [
            planned(leg(mark="charging", stop_h=2, shore_w=watts), leg("b", 3), start_charge_frac=0.5, **FAR)
            for watts in (None, 1500)
        ]
        bare, fed = (passage_picture(design).arrival_soc_frac for design in stops)
        self.assertGreater(fed, bare + 0.2)

    def test_how_sure_counts_the_skies_and_a_hungrier_motor_or_stronger_stream_is_no_surer(self):
        design = planned(
            leg(nm=16, stream=river(0.2)),
            start_charge_frac=0.5,
            speed_mps=2.0,
            boat_changes={"plan__sky": "broken"},
        )
        found = sure(design)
        self.assertTrue(0 < found.arriving < found.skies)
        self.assertAlmostEqual(found.share_arriving_frac, found.arriving / found.skies)
        self.assertLessEqual(found.hungry_share_frac, found.share_arriving_frac)
        self.assertLessEqual(found.stream_share_frac, found.share_arriving_frac)
        self.assertEqual(found.arrival_soc, sorted(found.arrival_soc))
        plan = voyage_of(
            design
        ).plan  # its own motor stops on the shown day: the bank's end is that of the way
        self.assertTrue(
            found.arrival_soc[0] - 0.05 <= plan.soc_at(plan.arrives_h) <= found.arrival_soc[2] + 0.05
        )

    def test_a_motor_that_stops_on_the_way_brings_her_nowhere(self):
        """No hour and no charge of arrival is told of a way that ends at the reserve, on the rail, at the marks or in JSON."""
        picture = passage_picture(planned(leg(nm=10), leg("b", 20), speed_mps=2.4, start_charge_frac=0.4))
        self.assertEqual(
            (picture.trouble, picture.arrives_h, picture.arrival_soc_frac), ("reserve", None, None)
        )
        reached = [mark for mark in picture.marks if mark.arrives_h is not None]
        self.assertTrue(0 < len(reached) < len(picture.marks))
        self.assertLessEqual(max(mark.arrives_h for mark in reached), picture.stops_h)
        self.assertAlmostEqual(picture.ribbon.hours[-1], picture.stops_h, delta=0.02)
        for cell in picture.cells[:2]:
            self.assertIsNone(cell.value)
            self.assertAlmostEqual(cell.reason.slots["at"].value, picture.stops_h * 60 % 1440, delta=1e-6)

    def test_a_refuge_that_is_passed_is_in_reach_no_shorter_than_home(self):
        overcast = {"plan__sky": "overcast"}
        for soc, near, further in ((0.45, 4, 12), (0.6, 2, 20), (0.6, 8, 14)):
            legs = leg("a", nm=near, mark="refuge"), leg("b", nm=further)
            design = planned(*legs, start_charge_frac=soc, boat_changes=overcast)
            voyage = voyage_of(design)
            [refuge] = voyage.refuges
            self.assertFalse(voyage.turn.everywhere)
            self.assertGreater(refuge.turn.hours, voyage.turn.hours - 0.01)
            self.assertGreater(refuge.turn.out_m, near * NM)
            self.assertIn("passage_refuge/a", [finding.id for finding in findings_of("passage", design)])
        self.assertGreater(refuge.turn.hours, voyage.turn.hours + 0.2)
        safe = planned(leg("a", mark="refuge"), leg("b"))
        self.assertTrue(voyage_of(safe).refuges[0].turn.everywhere)
        self.assertNotIn("passage_refuge/a", [finding.id for finding in findings_of("passage", safe)])
        self.assertEqual(voyage_of(planned(leg("a", mark="refuge"))).refuges, [])  # it is the far end

    def test_a_stations_tide_opens_its_gate_and_turns_its_stream_with_the_day(self):
        at_boston = {"site__latitude_deg": 42.35, "site__longitude_deg": -71.05}
        legs = [leg(mark="gate", open_h=1.5, stream=tidal(0.5)), leg("b", 2)]
        tides = {"station_id": "noaa/8443970", "springs_m": 3.2, "neaps_m": 2.3}
        first = None
        for day, high in (
            (5, 16.88),
            (6, 17.78),
        ):  # of July 2027: 16:52 and 17:46 UT, four hours earlier there
            changes = {**at_boston, "plan__date": f"2027-07-{day:02d}"}
            design = planned(*legs, tide=tides, leaves_at="13:00:00", boat_changes=changes, **FAR)
            ahead = voyage_of(design).ahead
            self.assertLess(min(abs(one - (high - 4)) for one in ahead.waters.hours), 0.2)
            (opens, shuts) = min(ahead.legs[1].passable_h, key=lambda one: abs(one[0] - high + 4))
            self.assertAlmostEqual(shuts - opens, 3.0, delta=1e-9)
            self.assertNotEqual(first, opens)
            first = opens
        nearby = tides_nearby(design)
        self.assertEqual((nearby.used.name, len(nearby.stations)), ("Boston", 6))
        self.assertIn("public domain", nearby.used.source)

    def test_a_night_at_the_far_end_is_no_delay_and_no_way_in_the_dark(self):
        for stay, day in ((1.5, 0), (20, 1), (44, 2), (116, 5)):
            design = planned(leg(nm=4), leaves_at="09:00:00", in_by="18:00:00", stay_h=stay)
            picture = passage_picture(design)
            self.assertIsNone(picture.trouble, stay)
            self.assertAlmostEqual(picture.in_by_h, 18 + 24 * day, places=6)
            self.assertAlmostEqual(
                picture.arrives_h - 9 - stay,
                passage_picture(planned(leg(nm=4), stay_h=0)).arrives_h - 8,
                delta=0.1,
            )
            self.assertNotIn("passage_dark", [one.id for one in findings_of("passage", design)])
            self.assertTrue(any(picture.ribbon.dark) or day == 0)
        through = planned(leg(nm=16), leaves_at="19:00:00", home_again=False)  # under way all night
        self.assertIn("passage_dark", [one.id for one in findings_of("passage", through)])


class BoatsTest(TestCase):
    def test_the_demo_boats_all_have_one_and_it_is_done(self):
        for name in ("whimbrel", "fulmar", "grebe", "sabine"):
            design = read_boat((DEMO / f"{name}.json").read_bytes())
            picture = passage_picture(design)
            self.assertIsNone(picture.trouble, name)
            out = io.StringIO()
            self.assertEqual(main(["passage", str(DEMO / f"{name}.json"), "--json"], out), 0)
            told = json.loads(out.getvalue())
            for key in (
                "legs",
                "arrives_at",
                "arrival_soc_frac",
                "ways",
                "departures",
                "turn_back",
                "share_arriving",
            ):
                self.assertIn(key, told)
            self.assertEqual(math.isfinite(told["share_arriving"]), True)

    def test_strangers_go_too(self):
        """No bank, no panels, nothing but a motor; in the polar night; over midnight."""
        for changes in (
            {"banks": []}, {"panels": [], "strings": []}, {"banks": [], "panels": [], "strings": []},
            {"site__latitude_deg": 78, "plan__date": "2027-12-20"}, {"site__latitude_deg": -54, "plan__date": "2027-06-20"},
        ):  # fmt: skip
            for said in (
                {},
                {"leaves_at": "23:00:00", "pace": "earliest"},
                {"pace": "most", "in_by": "06:00:00"},
            ):
                design = planned(boat_changes=changes, **said)
                picture = passage_picture(design)
                text = picture.model_dump_json() + str(ways_shown(design)) + str(sure(design))
                self.assertNotIn("nan", text.lower().replace("dominant", ""))
                self.assertTrue(findings_of("passage", design))
                for cell in picture.cells:
                    self.assertTrue(cell.value is not None or cell.reason is not None, (changes, cell.key))

    def test_a_changed_passage_is_never_answered_from_another(self):
        one, other = planned(leg(nm=3)), planned(leg(nm=6))
        first = passage_picture(one).arrives_h
        self.assertGreater(passage_picture(other).arrives_h, first)
        self.assertEqual(passage_picture(BoatDesign.model_validate(one.model_dump())).arrives_h, first)


class ReachTest(TestCase):
    def test_what_lies_within_reach_shrinks_under_way_and_is_told_for_where_she_is_in(self):
        out = passage_picture(planned(leg(nm=6), home_again=True))
        found = out.ribbon.reach_m
        self.assertEqual(len(found), len(out.ribbon.hours))
        self.assertTrue(all(before >= after - 1 for before, after in pairwise(found)))
        left = out.distance_m - out.ribbon.gone_m[0]
        self.assertGreater(found[0], left)  # this plan is one of the ways within it
        self.assertEqual((out.in_east_m, out.in_north_m), (0.0, 0.0))
        over = passage_picture(planned(leg(nm=6, course=90), home_again=False))
        self.assertAlmostEqual(over.in_east_m, 6 * 1852, delta=1)
        self.assertAlmostEqual(over.in_north_m, 0, delta=1)
        blown = passage_picture(planned(leg(nm=6), home_again=True, wind_from_deg=0,
                                        boat_changes={"plan__wind_mps": 9.0}))  # fmt: skip
        self.assertLess(blown.ribbon.reach_m[0], found[0])  # the wind is ahead wherever she goes
        none = passage_picture(planned(leg(nm=2), boat_changes={"banks": []}))
        self.assertEqual(set(none.ribbon.reach_m), {None})


class UnderWayTest(TestCase):
    def test_from_where_she_is_as_planned_the_rest_is_the_plan(self):
        """Set where the plan has her, with its charge, the arrival is the plan's; with less it is told, with a speed."""
        design = planned(leg(nm=6), leg("b", 4, 45), speed_mps=2.0, start_charge_frac=0.9)
        whole = voyage_of(design).plan
        at, gone = 9.5, 2.0 * 1.5 * 3600
        now = {"at": "09:30:00", "gone_m": gone, "charge_frac": whole.soc_at(at)}
        again = design_from(
            {
                **design.model_dump(mode="json"),
                "passage": {**design.passage.model_dump(mode="json"), "now": now},
            }
        )
        voyage = voyage_of(again)
        self.assertAlmostEqual(voyage.plan.arrives_h, whole.arrives_h, delta=0.01)
        self.assertAlmostEqual(voyage.plan.arrival_soc, whole.arrival_soc, delta=0.005)
        self.assertAlmostEqual(voyage.planned_soc, now["charge_frac"], delta=0.002)
        self.assertAlmostEqual(voyage.planned_h, at, delta=0.02)
        picture = passage_picture(again)
        self.assertEqual(picture.marks[0].name, "here")
        self.assertAlmostEqual(picture.distance_m + picture.done_m, 20 * NM, delta=1)
        self.assertEqual([mark.name for mark in picture.marks[1:]], ["Mark a", "Mark b", "Mark a", "Home"])
        self.assertAlmostEqual(picture.marks[1].east_m, 6 * NM, delta=1)
        self.assertAlmostEqual(picture.marks[0].east_m, gone, delta=1)

    def test_short_of_charge_a_slower_speed_is_named_and_homeward_there_is_no_turn(self):
        short = planned(leg(nm=11), speed_mps=2.2, now={"at": "12:00:00", "gone_m": 13 * NM, "charge_frac": 0.36},
                        boat_changes={"plan__sky": "overcast"}, in_by="20:00:00")  # fmt: skip
        found = {item.id: item for item in findings_of("passage", short)}
        self.assertEqual(found["passage_under_way"].level, "warn")
        self.assertIn("v", found["passage_under_way"].detail.slots)
        turn = next(cell for cell in passage_picture(short).cells if cell.key == "turn_back")
        self.assertEqual(turn.value.value, "homeward")
        there = planned(leg(nm=2), now={"at": "12:00:00", "gone_m": 5 * NM})
        self.assertIn("passage_there", [item.id for item in findings_of("passage", there)])
        self.assertAlmostEqual(passage_picture(there).arrives_h, 12, delta=0.02)


GPX = '<?xml version="1.0"?><gpx version="1.1" creator="t" xmlns="http://www.topografix.com/GPX/1/1">{}</gpx>'


def points(kind, many):
    return "".join(
        f'<{kind} lat="{lat:.6f}" lon="{lon:.6f}"><name>P{k}</name></{kind}>'
        for k, (lat, lon) in enumerate(many)
    )


class FilesTest(TestCase):
    def test_a_route_goes_out_and_comes_back_the_same(self):
        legs = [Leg(**leg("a", 3, 40)), Leg(**leg("b", 5, 110)), Leg(**leg("c", 2, 350))]
        text = written_route("There", (54.3, 10.1), "Quay", legs)
        again = read_route(text)
        self.assertEqual(
            (again.begins_at, [one.name for one in again.legs]), ("Quay", [one.name for one in legs])
        )
        for one, other in zip(again.legs, legs, strict=True):
            self.assertAlmostEqual(one.distance_m, other.distance_m, delta=0.2)
            self.assertAlmostEqual(one.course_deg, other.course_deg, delta=0.1)

    def test_a_track_is_thinned_and_its_loss_is_told(self):
        bend = [(54 + 0.00005 * k, 10 + 0.02 * math.sin(k / 300)) for k in range(3000)]
        found = read_route(GPX.format(f"<trk><trkseg>{points('trkpt', bend)}</trkseg></trk>"))
        self.assertTrue(2 < len(found.legs) <= 40)
        self.assertIn("lost", found.told[0].slots)
        whole = sum(one.distance_m for one in found.legs)
        self.assertAlmostEqual(whole, whole + found.told[0].slots["lost"].value, delta=0.05 * whole)
        self.assertEqual(len(read_route(GPX.format(points("wpt", [(1, 1), (1.1, 1), (1.2, 1)]))).legs), 2)

    def test_what_is_no_way_is_refused(self):
        dirty = '<!DOCTYPE gpx [<!ENTITY a "b">]>' + GPX.format("")
        far = points("rtept", [(0, 0), (40, 0)])
        many = points("trkpt", [(50 + k / 1e5, 5) for k in range(20_001)])
        for text, code in (
            (dirty, "has_entities"), ("", "not_gpx"), ("<gpx", "not_gpx"), (GPX.format(""), "no_way"),
            (GPX.format(f"<rte>{points('rtept', [(1, 1), (1, 1)])}</rte>"), "no_way"),
            (GPX.format(f"<rte>{far}</rte>"), "too_far"), (" " * 8_000_001, "too_large"),
            (GPX.format(f"<trk><trkseg>{many}</trkseg></trk>"), "too_many"),
            (GPX.format('<rte><rtept lat="x" lon="1"/><rtept lat="2" lon="1"/></rte>'), "not_gpx"),
        ):  # fmt: skip
            with self.assertRaises(UnreadableFile) as caught:
                read_route(text)
            self.assertEqual(caught.exception.problems[0].code, code, text[:60])

    def test_the_card_is_one_page_in_any_unit(self):
        for name in ("sabine", "grebe"):
            design = read_boat((DEMO / f"{name}.json").read_bytes())
            for unit in ("kn", "km/h", "mph"):
                made = passage_card(design, unit)
                self.assertTrue(made.startswith(b"%PDF"))
                self.assertEqual(made.count(b"/Type /Page\n"), 1)
        with self.assertRaises(InvalidDesign):
            passage_card(boat())
