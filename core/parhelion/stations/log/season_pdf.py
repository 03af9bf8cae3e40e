"""The season on paper: by month, what it taught, what broke, laying up."""

from __future__ import annotations

from parhelion.design import BoatDesign
from parhelion.design.logbook import NO_LOGBOOK, Logbook
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.pdf_page import FONT, INK, MARGIN_MM, MUTED, RULE, Sheet, write_line
from parhelion.formats.plain import shown, told
from parhelion.quantities import distance, energy, fraction
from parhelion.stations.log.season import log_season
from parhelion.stations.log.shown import LogMonth

HEADINGS = ("month", "days", "run", "planned", "from the sun", "not taken", "used", "shore", "sun")


def _row(month: LogMonth) -> list[str]:
    share = "" if month.sun_share is None else shown(fraction(month.sun_share))
    ways = [shown(distance(month.way_m)), shown(distance(month.planned_m))]
    energies = [
        shown(energy(wh)) for wh in (month.harvest_wh, month.thrown_wh, month.used_wh, month.shore_wh)
    ]
    return [month.label, str(month.days), *ways, *energies, share]


def season_pdf(design: BoatDesign, logbook: Logbook = NO_LOGBOOK) -> bytes:
    """The season as the bytes of an A4 PDF.

    Parameters
    ----------
    design : BoatDesign
    logbook : Logbook

    Raises
    ------
    ParhelionError
        Without an outing.
    """
    season = log_season(design, logbook)
    if season is None:
        raise ParhelionError(
            [Problem(code="no_outing", message="There is no outing yet.", accepted="a logbook with one")]
        )
    pdf = Sheet(format="A4")
    pdf.set_title(f"{design.name}: the season {season.title}")
    pdf.set_margin(MARGIN_MM)
    pdf.add_page()
    write_line(pdf, f"{design.name}: the season {season.title}", 20, True)
    days, readings = season.whole.days, season.readings
    write_line(
        pdf,
        f"{days} day{'' if days == 1 else 's'} out, {readings} readings laid over the design",
        10,
        colour=MUTED,
    )
    pdf.ln(2)
    pdf.set_draw_color(*RULE)
    pdf.set_text_color(*INK)
    with pdf.table(
        width=int(pdf.epw), align="L", text_align="RIGHT", borders_layout="HORIZONTAL_LINES", line_height=6,
        headings_style=None, first_row_as_headings=False,
    ) as table:  # fmt: skip
        for number, cells in enumerate(
            (HEADINGS, *(_row(month) for month in (*season.months, season.whole)))
        ):
            pdf.set_font(FONT, "" if 0 < number <= len(season.months) else "B", 9)
            line = table.row()
            for index, text in enumerate(cells):
                line.cell(text, align="LEFT" if index == 0 else "RIGHT")
    for title, lines in (
        ("What it came to", [told(one) for one in season.told]),
        ("What she is, against what was designed", [told(one.words) for one in season.learned]),
        ("What broke", season.broke),
        ("Laying up", [told(one) for one in season.laying_up]),
    ):
        if lines:
            pdf.ln(3)
            write_line(pdf, title, 13, True)
            for text in lines:
                write_line(pdf, text, 10)
    return bytes(pdf.output())
