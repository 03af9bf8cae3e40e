"""Shade: reference cases through the caster and the table, rays cast one by one, laws of the harvest."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.design import Obstacle
from parhelion.panels.bodies import body_of
from parhelion.panels.casting import SUN_RADIUS_RAD, strip_share
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import harvest
from parhelion.panels.layout import PanelAt, cell_middles, substring_of_cells
from parhelion.panels.mismatch import effective_light
from parhelion.panels.shade import shares_towards, sky_table, towards
from parhelion.panels.shaded import group_light
from parhelion.sun.light import clear_light

from tests.cases import boat, cases
from tests.twins import mismatch

HALVES = 6
CATCHES = {"places__0__at": {"x_m": 0.4, "y_m": -1.5, "z_m": 2.0}, "places__0__width_m": 2.4}
MAST = Obstacle.model_validate(
    {
        "id": "mast", "name": "Mast", "radius_m": 0.05,
        "foot": {"x_m": 0, "y_m": 0, "z_m": 0}, "tip": {"x_m": 0, "y_m": 0, "z_m": 15},
    }
)  # fmt: skip


def spar(x, y, tip_x=None, tip_y=None, top=6.0, radius=0.05, name="spar") -> dict:
    return {
        "id": name, "name": name, "radius_m": radius, "foot": {"x_m": x, "y_m": y, "z_m": 0.5},
        "tip": {"x_m": x if tip_x is None else tip_x, "y_m": y if tip_y is None else tip_y, "z_m": top},
    }  # fmt: skip


def day_wh(**changes) -> float:
    design = boat(**{**CATCHES, "controllers__0__current_limit_a": None, **changes})
    return float(harvest(design, clear_light(design.site, design.plan.date)).sun_w.sum() / 6)


def worst_of(panel: PanelAt, shares: np.ndarray) -> np.ndarray:
    ids = substring_of_cells(panel)
    if not panel.half_cut:  # both halves are one
        ids = np.concatenate([ids, ids + 1])
        shares = np.concatenate([shares, shares])
    return np.array([shares[ids == k].max(axis=0) for k in range(HALVES)])


class ReferenceTest(unittest.TestCase):
    def test_a_strip_before_the_sun(self):
        for name, expected in cases("sun")["penumbra_strip"]["expected"].items():
            radius, offset, distance = (float(part[1:]) for part in name.split("_"))
            self.assertAlmostEqual(strip_share(offset, radius, distance * 0.004653), expected, delta=1e-4)

    def test_a_mast_before_a_panel_cast_and_from_the_table(self):
        panel = PanelAt((0, -2, 2.3), (1.13, 0, 0), (0, 1.72, 0), 6, 18, True, True)
        for name in ("mast_0_az0_el20", "mast_6_az15_el60"):
            case = cases("sun")[name]
            inputs, expected, within = case["inputs"], case["expected"], case["tolerance"]
            sun = np.array([inputs["sun_az_from_bow"]]), np.array([inputs["sun_el"]])
            shares = shares_towards(panel, (body_of(MAST),), towards(*sun))
            self.assertAlmostEqual(shares.mean(), expected["shaded_area_fraction"], delta=within["area_abs"])
            cast = worst_of(panel, shares)
            np.testing.assert_allclose(
                cast[:, 0], expected["worst_cell_fraction_per_halfsub"], atol=within["worst_abs"]
            )
            beam, diffuse = np.array([[inputs["beam_plane_suns"]]]), np.array([[inputs["diffuse_suns"]]])
            tabled = sky_table(panel, (body_of(MAST),)).at(*sun)
            for worst, by in ((cast, "cast"), (tabled, "table")):
                with self.subTest(case=name, by=by):
                    light = float(
                        effective_light(beam, diffuse, np.ascontiguousarray(worst), 108, True)[0, 0]
                    )
                    rule = expected["power_unshaded_w"] * light / float((beam + diffuse)[0, 0])
                    self.assertAlmostEqual(rule / expected["power_rule_w"], 1, delta=within["power_rel"])
                    self.assertAlmostEqual(
                        rule / expected["power_full_w"], 1, delta=within["rule_vs_full_rel"]
                    )


class RaysTest(unittest.TestCase):
    def test_thin_spars_shade_what_rays_say(self):
        """Rays from all over each cell to all over the sun's disc, one by one: no blur shared with the table."""
        panel = PanelAt((0, 0, 0.5), (1.0, 0, 0), (0, 1.6, 0), 6, 12, False, True)
        draw = np.random.default_rng(7)
        grid = (np.arange(9) + 0.5) / 9 - 0.5
        u, v = np.array([1.0, 0, 0]) / 6, np.array([0, 1.6, 0]) / 12
        offsets = (grid[:, None, None] * u + grid[None, :, None] * v).reshape(-1, 3)
        found, known = [], []
        for _ in range(12):
            foot = np.append(draw.uniform(-2, 2, 2), 0.6)
            tip = foot + np.append(draw.uniform(-1.5, 1.5, 2), draw.uniform(0.8, 3))
            radius = draw.uniform(0.008, 0.03)
            rod = spar(*foot[:2], 0, 0, top=3, radius=float(radius))
            rod |= {"foot": dict(zip(("x_m", "y_m", "z_m"), foot, strict=True)),
                    "tip": dict(zip(("x_m", "y_m", "z_m"), tip, strict=True))}  # fmt: skip
            body = body_of(Obstacle(**rod))
            target = foot + draw.uniform(0.2, 0.9) * (tip - foot)
            sun = target - np.array([*draw.uniform(-0.4, 0.4, 2), 0.5])
            sun /= np.linalg.norm(sun)
            shares = shares_towards(panel, (body,), sun[None, :])[:, :, 0].ravel()
            a = np.cross(sun, [0, 0, 1.0])
            a /= np.linalg.norm(a)
            b = np.cross(sun, a)
            disc = [(x, y) for x in grid * 2 for y in grid * 2 if x * x + y * y < 1]
            cells = cell_middles(panel).reshape(-1, 1, 3) + offsets
            axis = tip - foot
            hit = np.zeros(cells.shape[:2])
            for x, y in disc:
                ray = sun + SUN_RADIUS_RAD * (x * a + y * b)
                ray = ray / np.linalg.norm(ray)
                off = cells - foot
                across = np.cross(axis, ray)
                apart = np.abs(off @ across) / np.linalg.norm(across)
                gram = np.array([[axis @ axis, -axis @ ray], [-axis @ ray, 1.0]])
                w, t = np.linalg.solve(gram, np.stack([off @ axis, -(off @ ray)]).reshape(2, -1)).reshape(
                    2, *off.shape[:2]
                )
                hit += (apart < radius) & (w > 0) & (w < 1) & (t > 0)
            rays = (hit / len(disc)).mean(axis=1)
            found.append(shares.max())
            known.append(rays.max())
            self.assertAlmostEqual(shares.mean(), rays.mean(), delta=0.01)
        np.testing.assert_allclose(found, known, atol=0.06)
        self.assertAlmostEqual(np.mean(found) / np.mean(known), 1, delta=0.04)


class TableTest(unittest.TestCase):
    def test_a_day_from_the_table_is_the_day_cast_step_by_step(self):
        """Random headings, dates and clutter: the array within 1 %, a panel within 2; a very low sun 5 and 10."""
        draw = np.random.default_rng(4)
        for over in (0.08, 0.2, 0.35, 0.6, 0.9, 1.2):  # of the boom over the panels
            clutter = [
                spar(0, 1.2, top=9, radius=0.06, name="mast"),
                {
                    **spar(0, 1.2, 0.0, -2.5, top=2.0 + over, radius=0.07, name="boom"),
                    "foot": {"x_m": 0, "y_m": 1.2, "z_m": 2.0 + over},
                },
                spar(*draw.uniform(-1.2, 1.2, 2), top=4.5, radius=0.03, name="pole"),
            ]
            month, heading = int(draw.integers(1, 13)), float(draw.uniform(0, 360))
            design = boat(**CATCHES, obstacles=clutter, plan__date=f"2027-{month:02d}-11",
                          plan__heading_deg=heading)  # fmt: skip
            light = clear_light(design.site, design.plan.date)
            deck, group = deck_of(design).groups[0], design.panels[0]
            bare = boat(**CATCHES, plan__date=f"2027-{month:02d}-11", plan__heading_deg=heading)
            whole = next(group_light(light, deck_of(bare).groups[0], heading))
            day, beam = light.day, whole.beam_w_per_m2
            sun = towards((day.azimuth_deg - heading) % 360, day.elevation_deg)
            tabled, cast = [], []
            each = zip(deck.panels, deck.bodies, group_light(light, deck, heading), strict=True)
            for panel, bodies, lit in each:
                shares = shares_towards(panel, bodies, sun)
                view = sky_table(panel, bodies).sky_view
                diffuse = (whole.effective_w_per_m2 - beam) * view
                cells = group.grid.across * group.grid.along
                made = effective_light(beam, diffuse, worst_of(panel, shares), cells, group.half_cut)
                cast.append(made.sum())
                tabled.append(lit.effective_w_per_m2.sum())
            with self.subTest(month=month, heading=round(heading)):
                # under a winter sun of a few degrees a mast's shadow is narrower than the table's bearings
                low = day.elevation_deg.max() < 9
                np.testing.assert_allclose(tabled, cast, rtol=0.1 if low else 0.02)
                self.assertAlmostEqual(sum(tabled) / sum(cast), 1, delta=0.05 if low else 0.01)


class RuleTest(unittest.TestCase):
    @settings(max_examples=40, deadline=None)
    @given(
        st.lists(st.floats(0, 1), min_size=6, max_size=6), st.floats(0, 900), st.floats(0, 400), st.booleans()
    )
    def test_the_compiled_rule_is_the_one_written_out(self, worst, beam, diffuse, half_cut):
        shares = np.array(worst)[:, None]
        light = np.array([[beam], [beam / 2]]), np.array([[diffuse], [diffuse + 20]])
        twin = mismatch.effective_light(*light, shares[:, None, :], 72, half_cut)
        np.testing.assert_allclose(effective_light(*light, shares, 72, half_cut), twin, atol=1e-9)


class LawsTest(unittest.TestCase):
    @settings(max_examples=10, deadline=None)
    @given(
        st.lists(st.tuples(st.floats(-2, 2), st.floats(-4, 2), st.floats(0.01, 0.4)), min_size=2, max_size=3)
    )
    def test_more_in_the_way_is_never_more_energy(self, places):
        spars = [spar(x, y, radius=r, name=f"s{i}") for i, (x, y, r) in enumerate(places)]
        found = [day_wh(obstacles=spars[:n], plan__heading_deg=30.0) for n in range(len(spars) + 1)]
        self.assertEqual(found, sorted(found, reverse=True))

    def test_a_mirrored_boat_under_a_mirrored_sun(self):
        """At solar symmetry a boat heading south sees the morning as its mirror sees the afternoon."""
        spars = [spar(1.0, -0.5, 1.2, -2.0), spar(-0.2, 0.4, radius=0.1, name="post")]
        mirrored = [spar(-1.0, -0.5, -1.2, -2.0), spar(0.2, 0.4, radius=0.1, name="post")]
        mine = day_wh(obstacles=spars, plan__heading_deg=180.0)
        across = {**CATCHES["places__0__at"], "x_m": -CATCHES["places__0__at"]["x_m"]}
        its = day_wh(obstacles=mirrored, places__0__at=across, plan__heading_deg=180.0)
        self.assertLess(mine, 0.98 * day_wh(plan__heading_deg=180.0))
        self.assertAlmostEqual(mine / its, 1, delta=0.004)

    def test_what_is_below_or_behind_shades_nothing(self):
        below = spar(0.4, -1.5, top=1.9)
        self.assertAlmostEqual(day_wh(obstacles=[below]) / day_wh(), 1, places=9)
        self.assertEqual(day_wh(obstacles=[spar(0.4, 0.5)], places__0__at=None), day_wh(places__0__at=None))

    def test_half_cut_cells_keep_more_behind_a_boom_across_one_end(self):
        boom = [spar(-2.0, -1.0, 2.8, -1.0, top=2.6, radius=0.1)]
        boom[0]["foot"]["z_m"] = 2.6
        sizes = {"obstacles": boom, "plan__heading_deg": 90.0, "panels__0__count": 1}
        halves = {"panels__0__half_cut": True, "panels__0__cells_along": 24}
        self.assertGreater(day_wh(**sizes, **halves), 1.05 * day_wh(**sizes))


if __name__ == "__main__":
    unittest.main()
