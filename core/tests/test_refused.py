"""What cannot be is refused beside its entry, in words, with what would be accepted; nothing else is touched."""

from __future__ import annotations

import json
import re
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from parhelion.design.logbook import Outing, Pause, Reading
from parhelion.design.records import TestNote
from parhelion.errors import InvalidDesign, problems_of
from parhelion.formats.boat_file import design_from
from pydantic import BaseModel, ValidationError

DEMO = Path(__file__).parents[2] / "demo"
SABINE = json.loads((DEMO / "sabine.json").read_text())
WHIMBREL = json.loads((DEMO / "whimbrel.json").read_text())
DESIGN = Path(__file__).parents[1] / "parhelion" / "design"
NOON = datetime(2027, 6, 13, 12, tzinfo=UTC)

Change = dict[str, Any]
# What is said, the entries that are changed, where it is told. {} stands for what the values fill.
IN_A_DESIGN: tuple[tuple[str, Change, str], ...] = (
    ("A controller works best near half its rating.",
     {"controllers/0/efficiency": 0.9, "controllers/0/full_efficiency": 0.95}, "/controllers/0/full_efficiency"),
    ("A sail needs its third corner.", {"obstacles/0/shape": "sail"}, "/obstacles/0/clew"),
    ("A box needs its sizes.", {"obstacles/0/shape": "box"}, "/obstacles/0/width_m"),
    ("30 in series reach 1536 V.", {"banks/0/series": 30}, "/banks/0/series"),
    ("An empty bank cannot stand higher than a full one.", {"banks/0/empty_v": 60, "banks/0/full_v": 55},
     "/banks/0/empty_v"),
    ("Nothing in this design is called attic.", {"loads/0/bank_id": "attic"}, "/loads/0/bank_id"),
    ("This converter joins a bank to itself.", {"links/0/to_bank_id": "bank"}, "/links/0/to_bank_id"),
    ("That makes {} panels on one boat.", {"panels/0/count": 390}, "/panels/0/count"),
    ("Two entries share one id.", {"obstacles/1/id": "mast"}, "/obstacles"),
    ("Two generators would start each other.", {"sources/0/kind": "generator", "sources/1/kind": "generator"},
     "/sources"),
    ("Nothing says how heavy the boat is.", {"loading": None}, "/loading/boat_kg"),
    ("All aboard this makes {} kg.", {"loading/boat_kg": 199_000, "loading/gear_kg": 19_000},
     "/loading/boat_kg"),
    ("A hull this long and wide would float {} m deep.", {"loading/boat_kg": 60_000}, "/loading/boat_kg"),
    ("This pitch does not belong to a propeller {} m wide.", {"drives/0/propeller/pitch_m": 2.4},
     "/drives/0/propeller/pitch_m"),
    ("Nothing says how fast this motor turns.", {"drives/0/motor": {"current_limit_a": 200}},
     "/drives/0/motor/kv_rpm_per_v"),
    ("A thrust-rated motor needs its thrust.", {"drives/0/rating": "thrust"}, "/drives/0/static_thrust_n"),
    ("This motor has no power.", {"drives/0/rated_power_w": None}, "/drives/0/rated_power_w"),
    ("A wall of {} mm leaves nothing inside.", {"places/0/frame": {"size_m": 0.025, "wall_m": 0.02}},
     "/places/0/frame/wall_m"),
    ("A leaf cannot stand like that.", {"panels/0/leaf_tilts_deg": [10, 95]}, "/panels/0/leaf_tilts_deg"),
    ("There are more leaves than rows of cells.",
     {"panels/0/leaf_tilts_deg": [1] * 6, "panels/0/cells_along": 4}, "/panels/0/leaf_tilts_deg"),
    ("This table has too few lines.",
     {"passage/legs/2/stream/hours": [{"after_high_water_h": 0, "set_deg": 1, "springs_mps": 1, "neaps_mps": 0}]},
     "/passage/legs/2/stream/hours"),
    ("No high water is given.", {"passage/tide/high_water": None}, "/passage/tide/high_water"),
    ("Neaps are smaller than springs.", {"passage/tide/neaps_m": 4.5}, "/passage/tide/neaps_m"),
    ("One throttle needs its watts.", {"passage/pace": "throttle"}, "/passage/throttle_w"),
    ("This goes by high water, and none is given.", {"passage/tide": None}, "/passage/tide"),
    ("It opens and shuts at one hour.",
     {"passage/legs/0/hours": {"opens_at": "08:00:00", "shuts_at": "08:00:00"}}, "/passage/legs/0/hours/shuts_at"),
    ("Only a gate, lock, bridge or ramp opens and shuts.", {"passage/legs/0/mark": "turn"},
     "/passage/legs/0/mark"),
    ("This generator would never stop.", {"sources/0/kind": "generator", "sources/0/start_frac": 0.8, "sources/0/stop_frac": 0.5},
     "/sources/0/stop_frac"),
    ("It would be full before it begins.", {"sources/0/begins_mps": 8, "sources/0/full_mps": 5},
     "/sources/0/full_mps"),
    ("This motoring spell has no length.", {"plan/spells/0/starts_at": "09:00", "plan/spells/0/ends_at": "09:00"},
     "/plan/spells/0/ends_at"),
    ("This stay has no length.", {"plan/stays/0/starts_at": "20:00", "plan/stays/0/ends_at": "20:00"},
     "/plan/stays/0/ends_at"),
    ("This run has no watts.", {"runs": [{"id": "a", "speed_mps": 2}]}, "/runs/0/power_w"),
    ("Slower than wished is less than the speed wished.",
     {"wish": {"asks": [{"id": "w", "kind": "trip", "distance_m": 20_000, "speed_mps": 2, "slowest_mps": 3}]}},
     "/wish/asks/0/slowest_mps"),
    ("This trip has no days.", {"plan/trip": {"out_days": 0, "rest_days": 0}}, "/plan/trip/out_days"),
    ("The sun's place is not computed for that year.", {"plan/date": "1200-01-01"}, "/plan/date"),
    ("A name cannot be blank.", {"banks/1/name": "   "}, "/banks/1/name"),
    ("This name holds characters that cannot be seen.", {"banks/1/name": "House\u202ebank"}, "/banks/1/name"),
    ("A month has no 40 days.", {"site/climate": {"day_counts": [{"sunny": 20, "mixed": 10, "grey": 10}] * 12}},
     "/site/climate/day_counts/0/sunny"),
    ("This month has no days.", {"site/climate": {"day_counts": [{"sunny": 0, "mixed": 0, "grey": 0}] * 12}},
     "/site/climate/day_counts/0/sunny"),
    ("No month has 13.5 full-sun hours a day.", {"site/climate": {"sun_hours": [13.5] * 12}},
     "/site/climate/sun_hours"),
    ("The year has twelve months.", {"site/climate": {"sun_hours": [3.0] * 11}}, "/site/climate/sun_hours"),
)  # fmt: skip
ELSEWHERE = {  # tried below, or where they stand
    "This panel is in two strings.",
    "A pause ends after it begins.",
    "An outing ends after it begins, within two days.",
    "A reading says something.",
    "That was in the year {}.",
    "{} V and {} A is no point of a panel.",
}


def changed(document: dict[str, Any], change: Change) -> dict[str, Any]:
    made = json.loads(json.dumps(document))
    for path, value in change.items():
        *parents, last = path.split("/")
        node: Any = made
        for part in parents:
            node = node[int(part)] if isinstance(node, list) else node[part]
        if isinstance(node, list):
            node[int(last)] = value
        elif value is None:
            node.pop(last, None)
        else:
            node[last] = value
    return made


def pattern(said: str) -> str:
    return "^" + ".+".join(re.escape(part) for part in said.split("{}")) + "$"


class RefusedTest(unittest.TestCase):
    def test_each_is_told_beside_its_entry(self):
        design_from(SABINE)
        for said, change, field in IN_A_DESIGN:
            try:
                design_from(changed(SABINE, change))
                self.fail(f"nobody said “{said}”")
            except InvalidDesign as refused:
                problems = refused.problems
            found = [problem for problem in problems if re.match(pattern(said), problem.message)]
            with self.subTest(said):
                told = [(problem.field, problem.message) for problem in problems]
                self.assertEqual([problem.field for problem in found][:1], [field], told)
                self.assertTrue(found[0].accepted)
                self.assertNotRegex(found[0].message + (found[0].accepted or ""), r"[{}]|None|nan")

    def test_a_panel_is_in_one_string(self):
        strings = [
            {"id": name, "controller_id": "canopy-controller",
             "panels": [{"group_id": "canopy-panels", "number": 0}]}
            for name in ("a", "b")
        ]  # fmt: skip
        with self.assertRaises(InvalidDesign) as caught:
            design_from(changed(WHIMBREL, {"strings": strings}))
        problem = caught.exception.problems[0]
        self.assertEqual((problem.message, problem.field),
                         ("This panel is in two strings.", "/strings/1/panels/0"))  # fmt: skip

    def refused(self, kind: type[BaseModel], said: dict[str, Any]) -> tuple[str, str]:
        with self.assertRaises(ValidationError) as caught:
            kind.model_validate(said)
        problem = problems_of(caught.exception)[0]
        self.assertTrue(problem.accepted)
        return problem.message, problem.field

    def test_what_is_noted_is_held_to_sense_as_well(self):
        hour = timedelta(hours=1)
        begun: dict[str, Any] = {"id": "o", "began_at": NOON}
        for ends, fine in (
            (NOON + hour, True),
            (NOON - hour, False),
            (NOON + 49 * hour, False),
            (NOON, True),
        ):
            if fine:
                Outing.model_validate({**begun, "ended_at": ends})
                continue
            message, field = self.refused(Outing, {**begun, "ended_at": ends})
            self.assertEqual((message, field),
                             ("An outing ends after it begins, within two days.", "/ended_at"))  # fmt: skip
        message, field = self.refused(Pause, {"began_at": NOON, "ended_at": NOON - hour})
        self.assertEqual((message, field), ("A pause ends after it begins.", "/ended_at"))
        nothing: dict[str, Any] = {"id": "r", "at": NOON, "outing_id": "o", "source": "hand"}
        self.assertEqual(self.refused(Reading, nothing), ("A reading says something.", "/pv_w"))
        message, field = self.refused(Reading, {**nothing, "note": "x", "at": NOON.replace(year=1890)})
        self.assertEqual((message, field), ("That was in the year 1890.", "/at"))
        for name, value in (("pv_w", 0), ("sky", "hazy"), ("note", "weed")):
            self.assertIsNotNone(Reading.model_validate({**nothing, name: value}))

    def test_a_point_of_a_panel_is_one(self):
        test: dict[str, Any] = {"id": "t", "at": NOON, "name": "Old one"}
        self.assertIsNotNone(TestNote.model_validate({**test, "points": [(20, 3), (0, 3.2)]}))
        self.assertEqual(self.refused(TestNote, {**test, "points": [(20, 3), (-40, 3)]}),
                         ("-40 V and 3 A is no point of a panel.", "/points/1"))  # fmt: skip

    def test_none_is_forgotten(self):
        told = {said for said, _, _ in IN_A_DESIGN} | ELSEWHERE
        patterns = [re.compile(pattern(said)) for said in told]
        for path in DESIGN.rglob("*.py"):
            for message in re.findall(r"out_of_reach\(\s*f?\"([^\"]+)\"", path.read_text()):
                filled = re.sub(r"\{\w+[^}]*\}", "7", message)
                known = message in told or any(one.match(filled) for one in patterns) or any(
                    re.match(pattern(re.sub(r"\{\w+[^}]*\}", "{}", message)), said) for said in told
                )  # fmt: skip
                self.assertTrue(known, f"{path.name}: nobody tries “{message}”")
