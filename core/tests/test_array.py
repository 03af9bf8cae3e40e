"""Harvest: yields against an independent chain, clipping arithmetic, laws."""

from __future__ import annotations

import unittest
from datetime import date

import numpy as np
import pandas as pd
from parhelion.design import PanelGroup, Place
from parhelion.panels.harvest import harvest
from parhelion.panels.layout import most_that_fit
from parhelion.sun.daysteps import day_steps
from parhelion.sun.light import Light, clear_light, light_under, split
from pvlib import irradiance, location, pvsystem, temperature

from tests.cases import STEP_H, boat, cases
from tests.test_sun import site_of


class HarvestTest(unittest.TestCase):
    def test_flat_yields(self):
        for name, case in cases("sun").items():
            if not name.startswith("yield"):
                continue
            inputs = case["inputs"]
            design = boat(
                site={"latitude_deg": inputs["lat"], "longitude_deg": inputs["lon"], "linke_turbidity": 3},
                plan__date=inputs["date"], plan__air_temperature_c=inputs["ta"],
                places__0__ventilation="on_surface", panels__0__nameplate_w=1000, panels__0__count=1,
                controllers__0__current_limit_a=None,
            )  # fmt: skip
            day = day_steps(site_of(inputs), date.fromisoformat(inputs["date"]))
            for word, index in inputs["words"].items():
                with self.subTest(case=name, sky=word):
                    ghi = index * day.clear_ghi_w_per_m2[None, :]
                    light = Light(day, ghi, *split(day, ghi), 0)
                    made = harvest(design, light).sun_w
                    expected = case["expected"][word]
                    self.assertAlmostEqual(
                        made.sum() * STEP_H / 1000 / expected["yield_wh_per_wp"], 1, delta=0.03
                    )
                    self.assertAlmostEqual(made.max() / 1000 / expected["peak_fraction"], 1, delta=0.03)

    def test_a_notebook_of_library_calls_finds_the_same_tilted_day(self):
        """An oracle of its own: pvlib's high-level calls on a data frame, none of this project's code."""
        design = boat(places__0__tilt_deg=30, places__0__faces="starboard", plan__heading_deg=90.0,
                      controllers__0__current_limit_a=None, plan__air_temperature_c=15.0)  # fmt: skip
        light = clear_light(design.site, design.plan.date)
        times = pd.date_range(light.day.starts_at + pd.Timedelta(minutes=5), periods=144, freq="10min")
        place = location.Location(61.4, 14.2, altitude=160)
        sun = place.get_solarposition(times)
        parts = place.get_clearsky(times, linke_turbidity=light.day.linke_turbidity)
        ghi = parts["ghi"]
        extra = irradiance.get_extra_radiation(times)
        plane = irradiance.get_total_irradiance(
            30, 180, sun["zenith"], sun["azimuth"], parts["dni"], ghi, parts["dhi"], dni_extra=extra,
            albedo=0.08, model="haydavies",
        )  # fmt: skip
        cosine = irradiance.aoi_projection(30, 180, sun["zenith"], sun["azimuth"]).clip(lower=1e-9)
        entering = (
            plane["poa_direct"] * (1 - 0.05 * (1 / cosine - 1)).clip(lower=0) + 0.96 * plane["poa_diffuse"]
        )
        cell = temperature.faiman(plane["poa_global"], 15.0, 3.0, 25.0, 6.84)
        watts = pvsystem.pvwatts_dc(entering, cell, 860.0, -0.0035).clip(lower=0) * 0.97 * 0.98 * 0.97 * 0.96
        made = harvest(design, light).sun_w[0]
        np.testing.assert_allclose(made.sum(), watts.fillna(0).sum(), rtol=2e-3)
        np.testing.assert_allclose(made, watts.fillna(0), atol=3.0)

    def test_clipping_is_the_smaller_of_both(self):
        for name in ("mppt_clip_600_13.2_50", "mppt_clip_600_26.6_30"):
            inputs, expected = cases("sun")[name]["inputs"], cases("sun")[name]["expected"]
            controller = {"id": "canopy-controller", "efficiency": inputs["eta"]}
            plain = boat(controllers=[controller])
            light = clear_light(plain.site, plain.plan.date)
            share = inputs["pv_w"] / harvest(plain, light).array_w.max()  # panels that feed in 600 W at best
            made = harvest(
                boat(
                    controllers=[{**controller, "current_limit_a": inputs["i_limit"]}],
                    panels__0__nameplate_w=215 * share, banks__0__nominal_v=inputs["vbat"],
                ), light,
            )  # fmt: skip
            self.assertAlmostEqual(made.sun_w.max(), expected["out_w"], delta=0.01)
            self.assertAlmostEqual(made.sun_w.max() / inputs["vbat"], expected["i_out"], delta=1e-3)
            self.assertAlmostEqual(made.clipped_w.max(), expected["clipped_w"], delta=0.01)
        design = boat(controllers__0__current_limit_a=10.0)
        made = harvest(design, clear_light(design.site, design.plan.date))
        self.assertAlmostEqual(made.sun_w.max(), 10 * 25.6)
        free = harvest(boat(controllers__0__current_limit_a=None), clear_light(design.site, design.plan.date))
        np.testing.assert_allclose(made.sun_w, np.minimum(free.sun_w, 256.0))
        np.testing.assert_allclose(made.array_w, made.sun_w + made.conversion_w + made.clipped_w, atol=1e-9)

    def test_any_heading_is_the_mean_over_headings(self):
        tilted = {"places__0__tilt_deg": 40, "controllers__0__current_limit_a": None}
        light = clear_light(boat().site, boat().plan.date)
        each = [harvest(boat(**tilted, plan__heading_deg=h), light).sun_w.sum() for h in np.arange(8) * 45.0]
        self.assertAlmostEqual(harvest(boat(**tilted), light).sun_w.sum() / np.mean(each), 1, places=6)
        self.assertGreater(max(each), 1.3 * min(each))

    def test_the_most_that_fit(self):
        place = {"id": "p", "name": "P", "width_m": 1.55, "length_m": 3.1}
        panel = {"id": "g", "place_id": "p", "controller_id": "c", "nameplate_w": 200,
                 "panel_width_m": 0.76, "panel_length_m": 1.48}  # fmt: skip
        group = PanelGroup.model_validate(panel)
        for size, expected in ((1.55, (4, 4)), (1.53, (2, 4)), (0.5, (0, 0))):
            at = Place.model_validate({**place, "width_m": size})
            self.assertEqual((most_that_fit(at, group, False), most_that_fit(at, group, True)), expected)

    def test_more_panel_and_more_light_never_give_less(self):
        light = light_under(boat().site, boat().plan.date, boat().plan.sky)
        small, large = (harvest(boat(panels__0__count=n), light).sun_w for n in (3, 4))
        self.assertTrue(np.all(large >= small))
        self.assertFalse(harvest(boat(panels=[]), light).sun_w.any())
