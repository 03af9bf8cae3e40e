"""The deck: faces against rays, neighbours, states of the boat, the skyline, hinges, leaves, both sides."""

from __future__ import annotations

import unittest
from itertools import pairwise

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatState, Obstacle, Tended
from parhelion.panels.bodies import body_of
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import group_power_per_watt, harvest
from parhelion.panels.layout import PanelAt, leaves_of, panels_of
from parhelion.panels.rear import close_rear, open_rear, own_shadow
from parhelion.panels.shade import shares_towards, towards
from parhelion.panels.shaded import SWING, group_light, headings_of
from parhelion.panels.tending import tilted_power
from parhelion.stations.array.picture import array_advice
from parhelion.sun.daysteps import day_steps
from parhelion.sun.light import Light, clear_light
from parhelion.sun.skyline import hidden_hours, light_behind

from tests.cases import STEP_H, boat

WING = {
    "places__0__kind": "wing", "places__0__at": {"x_m": 1.6, "y_m": -0.5, "z_m": 1.2},
    "places__0__width_m": 0.8, "places__0__length_m": 3.0, "places__0__tilt_most_deg": 60.0,
    "plan__heading_deg": 90.0, "controllers__0__current_limit_a": None,
}  # fmt: skip


def day_wh(**changes) -> float:
    design = boat(**changes)
    return float(harvest(design, clear_light(design.site, design.plan.date)).sun_w.sum() * STEP_H)


def thing(shape: str, foot, tip, **more) -> Obstacle:
    ends = {"foot": dict(zip(("x_m", "y_m", "z_m"), foot, strict=True)),
            "tip": dict(zip(("x_m", "y_m", "z_m"), tip, strict=True))}  # fmt: skip
    return Obstacle.model_validate({"id": "t", "name": "T", "shape": shape, **ends, **more})


def rays_into_box(points, ray, low, high) -> np.ndarray:
    """Whether rays from points meet an upright box: slab by slab."""
    with np.errstate(divide="ignore"):
        near, far = (low - points) / ray, (high - points) / ray
    enter, leave = np.minimum(near, far).max(axis=1), np.maximum(near, far).min(axis=1)
    return (leave > np.maximum(enter, 0)) & (leave > 0)


def rays_into_triangle(points, ray, a, b, c) -> np.ndarray:
    """Whether rays from points meet a triangle: barycentric coordinates."""
    system = np.linalg.inv(np.stack([b - a, c - a, -ray], axis=1))
    u, v, t = (system @ (points - a).T).reshape(3, -1)
    return (u >= 0) & (v >= 0) & (u + v <= 1) & (t > 0)


class FacesTest(unittest.TestCase):
    PANEL = PanelAt((0.2, -1.5, 2.0), (1.0, 0, 0), (0, 1.6, 0), 6, 12, False, True)

    def points(self, number: int = 160) -> np.ndarray:
        u, v = np.meshgrid((np.arange(number) + 0.5) / number - 0.5, (np.arange(number) + 0.5) / number - 0.5)
        across, along = np.array(self.PANEL.across), np.array(self.PANEL.along)
        return np.array(self.PANEL.middle) + u.reshape(-1, 1) * across + v.reshape(-1, 1) * along

    def test_boxes_and_sails_shade_what_single_rays_say(self):
        draw, points, seen = np.random.default_rng(7), self.points(), 0
        for _ in range(150):
            x, y, h = draw.uniform(-1, 1.4), draw.uniform(-2.8, 1), draw.uniform(2.3, 3.4)
            w, d = draw.uniform(0.2, 1.5, 2)
            box = thing("box", (x, y, 1.0), (x, y, h), width_m=w, length_m=d)
            corners = draw.uniform((-2, -3, 2.2), (2, 2, 7), (3, 3))
            sail = thing("sail", corners[0], corners[1], clew=dict(zip(("x_m", "y_m", "z_m"), corners[2],
                         strict=True)))  # fmt: skip
            sun = towards(draw.uniform(0, 360, 1), draw.uniform(15, 80, 1))
            low, high = np.array([x - w / 2, y - d / 2, 1.0]), np.array([x + w / 2, y + d / 2, h])
            if ((points > low) & (points < high)).all(axis=1).any():
                continue  # through the panel: that has a finding of its own
            for body, hits in (
                (body_of(box), rays_into_box(points, sun[0], low, high)),
                (body_of(sail), rays_into_triangle(points, sun[0], *corners)),
            ):
                share = float(shares_towards(self.PANEL, (body,), sun).mean())
                self.assertAlmostEqual(share, float(hits.mean()), delta=0.012)
                seen += 0.02 < hits.mean() < 0.98
        self.assertGreater(seen, 25)  # of them cut across the panel


class NeighboursTest(unittest.TestCase):
    def test_a_raised_wing_darkens_a_flat_panel_and_a_flat_one_does_not(self):
        north = {**WING, "plan__heading_deg": 270.0, "plan__date": "2027-12-11"}

        def two(tilt: float):
            base = boat(**north).model_dump(mode="json")
            wing = {**base["places"][0], "id": "two", "name": "Two", "tilt_deg": tilt,
                    "at": {"x_m": 0.75, "y_m": -0.5, "z_m": 1.2}, "faces": "starboard"}  # fmt: skip
            groups = [*base["panels"], {**base["panels"][0], "id": "q", "place_id": "two"}]
            return boat(**north, places=[base["places"][0], wing], panels=groups)

        light = clear_light(boat(**north).site, boat(**north).plan.date)
        flat, raised = two(0.0), two(60.0)
        first = [harvest(d, light).groups_w[d.panels[0].id].sum() for d in (flat, raised)]
        self.assertAlmostEqual(first[0], harvest(boat(**north), light).groups_w[flat.panels[0].id].sum())
        self.assertLess(first[1], 0.97 * first[0])


class StatesTest(unittest.TestCase):
    def test_each_state_has_its_own_harvest(self):
        stands = {
            "sailing": {"how": "folded"}, "anchored": {"how": "tilted", "tilt_deg": 40},
            "dock": {"how": "covered"}, "trailer": {"how": "gone"},
        }  # fmt: skip
        wh = {s: day_wh(**WING, places__0__stands=stands, plan__state=s) for s in BoatState}
        self.assertEqual([wh[s] for s in (BoatState.SAILING, BoatState.DOCK, BoatState.TRAILER)], [0, 0, 0])
        self.assertEqual(wh[BoatState.UNDER_WAY], day_wh(**WING))
        self.assertEqual(wh[BoatState.ANCHORED], day_wh(**WING, places__0__tilt_deg=40.0))
        self.assertNotEqual(wh[BoatState.ANCHORED], wh[BoatState.UNDER_WAY])

    def test_what_is_stowed_in_a_state_throws_no_shade(self):
        boom = {
            "id": "boom", "name": "Boom", "radius_m": 0.08, "foot": {"x_m": 1.6, "y_m": 2, "z_m": 2.0},
            "tip": {"x_m": 1.6, "y_m": -3, "z_m": 2.1},
        }  # fmt: skip
        over = day_wh(**WING, obstacles=[boom])
        self.assertLess(over, 0.97 * day_wh(**WING))
        stowed = {**boom, "stands_in": ["dock"]}
        self.assertEqual(day_wh(**WING, obstacles=[stowed]), day_wh(**WING))
        self.assertEqual(day_wh(**WING, obstacles=[stowed], plan__state="dock"), over)

    def test_planned_panels_are_not_those_built(self):
        planned = {"panels__0__belongs": "planned"}
        self.assertEqual(day_wh(**WING, **planned), 0)
        self.assertEqual(day_wh(**WING, **planned, panel_set="planned"), day_wh(**WING))
        self.assertEqual(boat(**WING, **planned).nameplate_w, 0)
        sets = array_advice(outlook_of(boat(**WING, **planned, plan__sky="clear"))).sets
        self.assertEqual([round(s.nameplate_w) for s in sets], [860, 0])
        self.assertEqual(sets[1].day_wh, 0)
        self.assertEqual(array_advice(outlook_of(boat(**WING))).sets, [])


class SkylineTest(unittest.TestCase):
    TREES = [{"id": "t", "name": "Trees", "from_deg": 230, "to_deg": 310, "height_m": 20, "distance_m": 25}]

    def test_trees_take_the_hours_behind_them_from_a_boat_that_lies_still(self):
        free, behind = day_wh(**WING, plan__state="dock"), day_wh(
            **WING, plan__state="dock", site__skyline=self.TREES
        )  # fmt: skip
        self.assertLess(behind, 0.95 * free)
        self.assertEqual(
            day_wh(**WING, site__skyline=self.TREES), day_wh(**WING)
        )  # she can leave them behind
        design = boat(**WING, site__skyline=self.TREES)
        day = day_steps(design.site, design.plan.date)
        hours = hidden_hours(day, design.site.skyline)
        evening = (day.elevation_deg > 0) & (day.azimuth_deg > 230) & (day.azimuth_deg < 310)
        self.assertAlmostEqual(hours, (evening & (day.elevation_deg < 38.66)).sum() * STEP_H, delta=0.2)

    def test_a_ring_of_hills_leaves_the_overhead_sky(self):
        ring = boat(site__skyline=[{"id": "h", "name": "Hills", "from_deg": 0, "to_deg": 360, "height_m": 100,
                                    "distance_m": 100}]).site.skyline  # fmt: skip
        light = clear_light(boat().site, boat().plan.date)
        left = light_behind(light, ring)
        np.testing.assert_allclose(left.dhi, light.dhi * 0.5)  # 1 - sin^2 45
        self.assertTrue((left.dni[:, light.day.elevation_deg < 44.9] == 0).all())


class HeadingTest(unittest.TestCase):
    def test_three_headings_stand_for_a_pendulum(self):
        tilted = {**WING, "places__0__tilt_deg": 45.0, "plan__heading_deg": 0.0}
        for mean in (0.0, 200.0):
            swinging = boat(**{**tilted, "plan__heading_deg": mean, "plan__swing_deg": 50.0})
            self.assertEqual(len(headings_of(swinging)), len(SWING))
            time = np.arange(180) / 180 * 2 * np.pi
            each = [
                day_wh(**{**tilted, "plan__heading_deg": float((mean + 50 * np.sin(t)) % 360)})
                for t in time[::6]
            ]
            light = clear_light(swinging.site, swinging.plan.date)
            three = float(harvest(swinging, light).sun_w.sum() * STEP_H)
            self.assertAlmostEqual(three / np.mean(each), 1, delta=0.004)


class HingeTest(unittest.TestCase):
    @settings(max_examples=8, deadline=None)
    @given(st.floats(0, 359), st.floats(20, 80), st.sampled_from(["bow", "starboard", "stern", "port"]))
    def test_tending_a_hinge_never_loses(self, heading, most, faces):
        base = {
            **WING,
            "plan__heading_deg": heading,
            "places__0__tilt_most_deg": most,
            "places__0__faces": faces,
        }
        wh = [
            day_wh(**base, places__0__tended=way.value)
            for way in (Tended.LEFT, Tended.THRICE, Tended.FOLLOWED)
        ]
        self.assertLessEqual(wh[0], wh[1] * (1 + 1e-12))
        self.assertLessEqual(wh[1], wh[2] * (1 + 1e-12))
        design = boat(**base)
        light = clear_light(design.site, design.plan.date)
        swept = tilted_power(design, light, deck_of(design).groups[0], heading)
        self.assertEqual((swept.tilts_deg.min(), swept.tilts_deg.max()), (0, most))
        flat = group_power_per_watt(design, light, deck_of(design).groups[0])[0]
        np.testing.assert_allclose(swept.given(Tended.LEFT, 0), flat)


class SwungTest(unittest.TestCase):
    """A boom that is carried over a side in some states."""

    BOOM = {"foot": (0, 1.0, 2.3), "tip": (0, -3.0, 2.6)}

    def test_it_turns_clockwise_about_its_foot_and_only_where_it_is_said(self):
        boom = thing("sail", **self.BOOM, clew={"x_m": 0, "y_m": -2.0, "z_m": 5}, swung_deg=30,
                     swung_in=["anchored"], stands_in=["anchored", "sailing"])  # fmt: skip
        self.assertIs(boom.as_it_stands(BoatState.SAILING), boom)
        self.assertIsNone(boom.as_it_stands(BoatState.DOCK))
        over = boom.as_it_stands(BoatState.ANCHORED)
        self.assertEqual(over.foot, boom.foot)
        self.assertAlmostEqual(over.tip.x_m, -4 * np.sin(np.pi / 6))  # aft goes to port
        self.assertAlmostEqual(over.tip.y_m, 1 - 4 * np.cos(np.pi / 6))
        self.assertEqual((over.tip.z_m, over.clew.z_m), (2.6, 5))
        self.assertAlmostEqual(over.clew.x_m, -3 * np.sin(np.pi / 6))

    def test_over_the_far_side_it_leaves_the_panels_more(self):
        at = {**WING, "plan__heading_deg": 0.0}
        over = thing("spar", **self.BOOM, radius_m=0.08, swung_deg=40, swung_in=["anchored"])
        onto = over.model_copy(update={"swung_deg": -40.0})
        for state, least in (("under_way", 1.0), ("anchored", 1.01)):
            away, near = (day_wh(**at, plan__state=state, obstacles=[boom]) for boom in (over, onto))
            self.assertGreaterEqual(away / near, least)
            if state == "under_way":
                self.assertEqual(away, near)


class LeavesTest(unittest.TestCase):
    FOLDING = {**WING, "panels__0__count": 1, "panels__0__cells_across": 4, "panels__0__cells_along": 12}

    def test_leaves_laid_flat_are_the_panel_and_standing_ones_lose_by_the_worst(self):
        flat = day_wh(**self.FOLDING)
        self.assertAlmostEqual(
            day_wh(**self.FOLDING, panels__0__leaf_tilts_deg=[0, 0, 0]) / flat, 1, delta=1e-6
        )
        for tilts in ([30, -30], [0, 60, -60]):
            self.assertLess(day_wh(**self.FOLDING, panels__0__leaf_tilts_deg=tilts), 0.97 * flat)

    def test_a_chain_of_leaves_hangs_together(self):
        design = boat(**self.FOLDING, panels__0__leaf_tilts_deg=[20, -35, 10])
        leaves = leaves_of(design.places[0], design.panels[0])
        whole = panels_of(design.places[0], design.panels[0])[0]
        self.assertEqual(sum(leaf.rows for leaf in leaves), whole.rows)
        for one, two in pairwise(leaves):
            np.testing.assert_allclose(one.corners[3], two.corners[0], atol=1e-9)
        low = min(corner[2] for leaf in leaves for corner in leaf.corners)
        self.assertAlmostEqual(low, design.places[0].at.z_m)


class BothSidesTest(unittest.TestCase):
    """Extra light from behind over a day, as shares of the front's, at a bifaciality of 0.8."""

    def gain(self, back: np.ndarray, light) -> float:
        return 0.8 * float(back.sum() / light.ghi.sum())

    def test_over_white_and_over_water(self):
        light = clear_light(boat().site, boat().plan.date)
        lone = [
            self.gain(close_rear(light, 0.0, (1.1, 1.7), (8.0, 8.0), gap, 0.6), light)
            for gap in (0.05, 0.2, 0.6)
        ]
        for found, low, high in zip(lone, (0.02, 0.10, 0.26), (0.07, 0.20, 0.40), strict=True):
            self.assertTrue(low < found < high, (found, low, high))
        roof = [
            self.gain(close_rear(light, 0.0, (3.0, 6.0), (3.0, 6.0), gap, 0.6), light)
            for gap in (0.05, 0.2, 0.6)
        ]
        for found, most in zip(roof, (0.02, 0.07, 0.15), strict=True):
            self.assertTrue(0.002 < found < most, (found, most))
        self.assertTrue(0.03 < self.gain(open_rear(light, 0.0, 0.0, 0.07), light) < 0.075)

    def test_a_sheet_near_the_water_sees_its_own_shadow(self):
        """Against rays from the sheet's back to the water, each dark where it falls into the shadow."""
        design = boat(**WING)
        light = clear_light(design.site, design.plan.date)
        day, step = light.day, int(np.argmax(light.ghi[0]))
        for size, high in (((1.1, 1.7), 1.0), ((2.0, 3.0), 0.5)):
            chance = np.random.default_rng(1)
            count = 200_000
            at = (chance.random((2, count)) - 0.5) * np.array(size)[:, None]
            round_, down = 2 * np.pi * chance.random(count), np.sqrt(chance.random(count))  # cosine-weighted
            far = high * down / np.sqrt(1 - down**2)
            x, y = at[0] + far * np.cos(round_), at[1] + far * np.sin(round_)
            along = high / np.tan(np.radians(day.elevation_deg[step]))
            bearing = np.radians(day.azimuth_deg[step] - 40.0)
            dark = (np.abs(x + along * np.sin(bearing)) < size[0] / 2) & (
                np.abs(y + along * np.cos(bearing)) < size[1] / 2
            )
            beam = light.dni[0, step] * np.cos(np.radians(day.zenith_deg[step]))
            found = own_shadow(light, 40.0, size, high, 0.08)[0, step]
            sky = found / 0.08 - beam * dark.mean()
            self.assertTrue(0 < sky < light.dhi[0, step], sky)
            self.assertLess(found, 0.08 * light.ghi[0, step])
            near, far_up = (own_shadow(light, 40.0, size, z, 0.08).sum() for z in (high, 20 * high))
            self.assertLess(far_up, 0.05 * near)
            no_sky = Light(day, light.ghi, 0 * light.dhi, light.dni, 0)
            self.assertAlmostEqual(
                own_shadow(no_sky, 40.0, size, high, 0.08)[0, step] / (0.08 * beam), dark.mean(), delta=0.004
            )

    def test_it_is_added_to_the_front(self):
        front = day_wh(**WING)
        both = day_wh(**WING, panels__0__bifaciality_frac=0.8)
        self.assertTrue(1.03 < both / front < 1.08, both / front)
        design = boat(**WING, panels__0__bifaciality_frac=0.8)
        lit = next(group_light(clear_light(design.site, design.plan.date), deck_of(design).groups[0], 90.0))
        bare = next(
            group_light(clear_light(design.site, design.plan.date), deck_of(boat(**WING)).groups[0], 90.0)
        )
        np.testing.assert_array_equal(lit.global_w_per_m2, bare.global_w_per_m2)


if __name__ == "__main__":
    unittest.main()
