"""The cache of light and geometry: bounded, computed once however many ask, and honest about failure."""

from __future__ import annotations

import itertools
import threading
import unittest
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from pathlib import Path
from unittest import mock

import numpy as np
from parhelion.balance.outlook import harvest_of
from parhelion.balance.sources import state_share
from parhelion.computing import kept as kept_module
from parhelion.computing.kept import (
    Memo,
    bytes_of,
    forget_all,
    is_there,
    kept_by_arguments,
    kept_by_content,
    once,
    trim,
)
from parhelion.computing.together import together
from parhelion.design import Sky
from parhelion.design.part import Point
from parhelion.formats.boat_file import read_boat
from parhelion.panels.harvest import harvest
from parhelion.stations.registry import BY_NAME
from parhelion.sun.light import light_under

DEMO = Path(__file__).parents[2] / "demo"


class MemoTest(unittest.TestCase):
    def test_many_threads_share_one_computation(self):
        memo: Memo[int] = Memo(4)
        made, ready = [], threading.Barrier(8)

        def compute() -> int:
            made.append(1)
            threading.Event().wait(0.05)
            return 42

        def ask(_: int) -> int:
            ready.wait()
            return memo.get("key", compute)

        with ThreadPoolExecutor(8) as pool:
            self.assertEqual(list(pool.map(ask, range(8))), [42] * 8)
        self.assertEqual(len(made), 1)

    def test_the_least_recently_asked_goes_first(self):
        memo: Memo[int] = Memo(2)
        for key in (1, 2, 1, 3):
            memo.get(key, lambda key=key: key)
        self.assertEqual(memo.get(1, lambda: -1), 1)  # asked again before 3 came: still there
        self.assertEqual(memo.get(2, lambda: -2), -2)

    def test_a_failure_is_told_and_not_kept(self):
        memo: Memo[int] = Memo(2)
        with self.assertRaises(ZeroDivisionError):
            memo.get("x", lambda: 1 // 0)
        self.assertEqual(memo.get("x", lambda: 7), 7)

    def test_a_failure_is_told_to_all_who_wait_for_it(self):
        memo: Memo[int] = Memo(4)
        begun, go = threading.Event(), threading.Event()

        def compute() -> int:
            begun.set()
            go.wait(5)
            return 1 // 0

        with ThreadPoolExecutor(4) as pool:
            asked = [pool.submit(memo.get, "key", compute)]
            begun.wait(5)
            asked += [pool.submit(memo.get, "key", lambda: 5) for _ in range(3)]
            threading.Event().wait(0.05)
            go.set()
            for one in asked:
                self.assertIsInstance(one.exception(10), ZeroDivisionError)

    def test_a_kernel_asked_the_same_numbers_again_computes_nothing(self):
        asked = []

        @kept_by_content(4)
        def summed(row: np.ndarray, more: float) -> float:
            asked.append(more)
            return float(row.sum()) + more

        row = np.arange(6.0)
        self.assertEqual([summed(row, 1.0), summed(np.arange(12.0)[:6], 1.0)], [16.0, 16.0])
        self.assertEqual(len(asked), 1)
        row[0] = 5.0  # the same array with another number in it
        self.assertEqual(
            [summed(row, 1.0), summed(row.reshape(2, 3), 1.0), summed(row, 2.0)], [21.0, 21.0, 22.0]
        )
        self.assertEqual(len(asked), 4)

    def test_a_property_is_made_once_and_two_objects_never_wait_for_each_other(self):
        memo: Memo[int] = Memo(4)
        first_inside, second_inside = threading.Event(), threading.Event()
        made = []

        class Boat:
            def __init__(self, first: bool):
                self.first = first

            @once
            def light(self) -> int:
                made.append(self.first)
                if self.first:  # waits for what the other thread is computing
                    first_inside.set()
                    second_inside.wait(5)
                    return memo.get("shared", lambda: -1)
                return 7

        first, second = Boat(True), Boat(False)

        def shared() -> int:
            second_inside.set()
            first_inside.wait(5)
            threading.Event().wait(0.05)
            return second.light

        with ThreadPoolExecutor(3) as pool:
            kept = pool.submit(memo.get, "shared", shared)
            second_inside.wait(5)
            lights = [pool.submit(lambda: first.light) for _ in range(2)]
            self.assertEqual([kept.result(10), *(light.result(10) for light in lights)], [7, 7, 7])
        self.assertEqual(sorted(made), [False, True])
        self.assertEqual(first.light, 7)

    def test_a_property_that_failed_is_tried_again(self):
        class Boat:
            tries = 0

            @once
            def light(self) -> int:
                self.tries += 1
                return 1 // (self.tries - 1)

        boat = Boat()
        with self.assertRaises(ZeroDivisionError):
            boat.light  # noqa: B018
        self.assertEqual(boat.light, 1)


class FewSkiesTest(unittest.TestCase):
    """All skies of an ensemble are told from a few of them."""

    def test_every_sky_gives_what_it_gives_by_itself_and_the_shown_one_to_the_digit(self):
        """With masts and stays, series strings wired by hand, controllers that clip, hinged wings, boats at anchor."""
        for name in ("whimbrel", "sabine", "fulmar", "grebe"):
            boat = read_boat((DEMO / f"{name}.json").read_bytes())
            for sky in Sky:
                light = light_under(boat.site, boat.plan.date, sky, boat.plan.sky_shade)
                few = harvest_of(boat, light).sun_w
                whole = harvest_of(boat, replace(light, by_index=False)).sun_w
                with self.subTest(f"{name}, {sky}"):
                    self.assertIsNotNone(light.few)
                    days, apart = whole.sum(axis=1), few.sum(axis=1) - whole.sum(axis=1)
                    self.assertLess(abs(apart).max(), 1e-3 * days.mean())
                    self.assertLess(abs(apart.mean()), 2e-4 * days.mean())
                    self.assertLess(abs(few - whole).max(), 0.02 * whole.max())
                    np.testing.assert_array_equal(few[light.shown], whole[light.shown])


class LikeTest(unittest.TestCase):
    def test_parts_that_were_found_alike_stay_alike_and_others_never_become_so(self):
        """Compared in every order, over and over: alike just where what they say is alike."""
        parts = [Point(x_m=k % 3, y_m=1.0, z_m=0.5) for k in range(9)]
        parts += [Point(x_m=1.0, y_m=k / 2, z_m=0.5) for k in range(4)]
        for _ in range(2):
            for one, other in itertools.product(parts, parts):
                self.assertEqual(one == other, one.model_dump() == other.model_dump())
        moved = parts[0].model_copy(update={"x_m": 7.0})
        self.assertNotEqual(moved, parts[3])
        self.assertNotEqual(hash(moved), hash(parts[0]))
        self.assertEqual(moved, Point(x_m=7.0, y_m=1.0, z_m=0.5))
        self.assertNotEqual(parts[0], "a point")

    def test_two_threads_that_compare_in_opposite_order_never_chase_each_other(self):
        """The second comparison begins and ends while the first is looking at the entries."""
        inside = []

        class Entry:
            def __hash__(self) -> int:
                return 3

            def __eq__(self, _: object) -> bool:
                if not inside:
                    inside.append(1)
                    test.assertEqual(other, one)
                return True

        test = self
        one, other = (Point.model_construct(x_m=Entry(), y_m=1.0, z_m=0.5) for _ in range(2))
        self.assertTrue(one == other)
        compared = threading.Thread(target=lambda: inside.append(one == other == one), daemon=True)
        compared.start()
        compared.join(5)
        self.assertEqual(inside, [1, True])


class ThereTest(unittest.TestCase):
    def test_what_is_kept_is_there_and_what_is_being_made_is_not(self):
        begun, go = threading.Event(), threading.Event()

        @kept_by_arguments(4)
        def slow(number: int) -> int:
            begun.set()
            go.wait()
            return 2 * number

        self.assertFalse(is_there(slow, 3))
        with ThreadPoolExecutor(1) as pool:
            making = pool.submit(slow, 3)
            begun.wait()
            self.assertFalse(is_there(slow, 3))
            go.set()
            self.assertEqual(making.result(), 6)
        self.assertTrue(is_there(slow, 3))
        self.assertFalse(is_there(slow, 4))

    def test_the_arrays_findings_rest_only_while_shade_is_still_to_be_cast(self):
        design = read_boat((DEMO / "whimbrel.json").read_bytes())
        moved = design.changed(
            obstacles=tuple(
                thing.model_copy(
                    update={"foot": thing.foot.model_copy(update={"y_m": thing.foot.y_m + 0.013})}
                )
                for thing in design.obstacles
            )
        )
        array = BY_NAME["array"]
        forget_all()  # what another test asked of this boat may be kept in part
        harvest(design, light_under(design.site, design.plan.date, design.plan.sky))
        self.assertFalse(array.told_at_rest(design))
        self.assertTrue(array.told_at_rest(moved))  # a thing stands elsewhere: nothing is known of its shade
        heavier = design.changed(loading=design.loading.model_copy(update={"boat_kg": 900.0}))
        brighter = design.changed(
            panels=tuple(group.model_copy(update={"nameplate_w": 217}) for group in design.panels)
        )
        self.assertFalse(array.told_at_rest(heavier))
        self.assertFalse(array.told_at_rest(brighter))  # watts move no shadow
        self.assertTrue(array.told_at_rest(moved))
        array.told(moved)
        self.assertFalse(array.told_at_rest(moved))
        self.assertTrue(BY_NAME["wish"].told_at_rest(design))
        self.assertFalse(BY_NAME["hull"].told_at_rest(design))

    def test_an_edit_of_weight_harvests_nothing_anew(self):
        """The day beside a cloud's edge was made anew at every edit, and with it the whole array."""
        design = read_boat((DEMO / "whimbrel.json").read_bytes())
        day = BY_NAME["day"]
        forget_all()
        day.told(design)
        with mock.patch("parhelion.panels.harvest._fed", side_effect=AssertionError("harvested anew")):
            day.told(design.changed(loading=design.loading.model_copy(update={"boat_kg": 811.0})))

    def test_the_day_in_two_states_is_its_parts(self):
        design = read_boat((DEMO / "sabine.json").read_bytes())
        light = light_under(design.site, design.plan.date, design.plan.sky)
        whole = harvest_of(design, light).sun_w
        plan, timeline = design.plan, light.day.timeline
        states = {plan.state, *(stay.state for stay in plan.stays)}
        self.assertGreater(len(states), 1)
        parts = 0.0
        for state in states:
            then = plan.model_copy(update={"state": state, "stays": ()})
            share = state_share(timeline, design, state)
            parts = parts + share * harvest(design.changed(plan=then), light).sun_w
        np.testing.assert_allclose(whole, parts, rtol=1e-9, atol=1e-9)


class TogetherTest(unittest.TestCase):
    def test_in_their_order_within_each_other_and_with_their_failures(self):
        def square(n: int) -> int:
            threading.Event().wait(0.001 * (5 - n % 5))
            return sum(together([lambda k=k: n for k in range(n)]))

        self.assertEqual(together([lambda n=n: square(n) for n in range(30)]), [n * n for n in range(30)])
        self.assertEqual(together([]), [])
        with self.assertRaises(ZeroDivisionError):
            together([lambda n=n: 1 // n for n in range(4)])


class TrimTest(unittest.TestCase):
    def test_the_longest_unused_of_what_holds_most_goes_first(self):
        class Held:
            def __init__(self, n):
                self.rows = [np.zeros(n)]

        large, small = Memo(20), Memo(20)
        with mock.patch.object(kept_module, "_MEMOS", [large, small]):
            whole = {k: large.get(k, lambda k=k: Held(100_000 + k)) for k in range(8)}
            view = small.get("view", lambda: whole[7].rows[0][:50])  # no bytes of its own
            large.get(0, lambda: None)  # used again
            before = bytes_of(list(whole.values()), set())
            self.assertAlmostEqual(before, 8 * 800_000, delta=20_000)
            self.assertLess(bytes_of(view, {id(whole[7].rows[0])}), 1_000)
            left = trim(3_300_000)
            self.assertLessEqual(left, 3_300_000)
            self.assertEqual([key for key, _ in large.held()], [5, 6, 7, 0])
            self.assertEqual([key for key, _ in small.held()], ["view"])
