"""The logbook as tables: every reading, and every outing in a line."""

from __future__ import annotations

import numpy as np

from parhelion.design import BoatDesign
from parhelion.design.logbook import NO_LOGBOOK, VALUES, Logbook
from parhelion.formats.table import written_table
from parhelion.stations.log.outing_day import book_of, outing_day
from parhelion.sun.zone import zone_at
from parhelion.units import M_PER_NAUTICAL_MILE


def readings_csv(design: BoatDesign, logbook: Logbook = NO_LOGBOOK) -> str:
    """Every reading: local time, outing, by whom, of what, the sky, its values in SI units, the word."""
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    rows: list[list[object]] = [["time", "outing", "source", "of", "sky", *VALUES, "left_out", "note"]]
    for reading in sorted(logbook.readings, key=lambda one: one.at):
        values = ["" if (v := getattr(reading, name)) is None else v for name in VALUES]
        rows.append(
            [
                reading.at.astimezone(zone).isoformat(timespec="seconds"), reading.outing_id or "",
                reading.source, reading.of or "", reading.sky or "", *values,
                "yes" if reading.left_out else "", reading.note,
            ]
        )  # fmt: skip
    return written_table(rows)


def outings_csv(design: BoatDesign, logbook: Logbook = NO_LOGBOOK) -> str:
    """Every outing in a line: when, how far, what came from the sun, what was used."""
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    rows: list[list[object]] = [
        ["date", "name", "skies", "readings", "distance_nm", "planned_nm", "hours_under_way", "from_sun_kwh",
         "used_kwh", "shore_kwh", "broke", "mended", "note"]
    ]  # fmt: skip
    for told in reversed(book_of(logbook).told):
        day, one = outing_day(design, told), told.outing
        skies = dict.fromkeys(word.label for word, out in zip(day.words, day.out, strict=True) if out)
        used = np.where(day.out, day.motor_w + day.house_w, 0.0)
        rows.append(
            [
                one.began_at.astimezone(zone).date().isoformat(), one.name, ", ".join(skies),
                len(told.readings), f"{day.way_m / M_PER_NAUTICAL_MILE:.1f}",
                "" if one.planned_m is None else f"{one.planned_m / M_PER_NAUTICAL_MILE:.1f}",
                f"{day.under_way_h:.1f}", f"{day.wh(day.harvested_w) / 1000:.2f}",
                f"{day.wh(used) / 1000:.2f}",
                f"{one.shore_wh / 1000:.2f}", one.broke, one.mended, one.note,
            ]
        )  # fmt: skip
    return written_table(rows)
