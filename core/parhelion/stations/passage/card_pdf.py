"""The passage card: one page for the wheel, to read in rain."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.design import BoatDesign
from parhelion.formats.pdf_page import ALARM, FONT, INK, MARGIN_MM, MUTED, RULE, Sheet, write_line
from parhelion.formats.plain import shown, told
from parhelion.stations.passage.picture import LegShown, MarkShown, PassagePicture, passage_picture
from parhelion.stations.passage.voyage import sure
from parhelion.stations.passage.words import clock_of, day_words, no_passage
from parhelion.units import M_PER_NAUTICAL_MILE, M_PER_STATUTE_MILE, MPS_PER, SpeedUnit

MILES: dict[SpeedUnit, tuple[str, float]] = {
    "kn": ("nm", M_PER_NAUTICAL_MILE),
    "km/h": ("km", 1000.0),
    "mph": ("mi", M_PER_STATUTE_MILE),
}
WIDTHS = (40, 16, 16, 18, 18, 20, 20, 18, 18)
ROWS_LARGE = 12  # marks, up to which the letters are large
CALLS = (
    "Ashore: who knows the way, the hour she is due, and when to call: ______________________",
    "Life jackets, something to bail with, lights, an anchor, a second way home.",
    "A computed arrival is no reason to go: wind, sea, crew, forecast and local rules come first.",
)


def _hour(hours: float | None) -> str:
    return "-" if hours is None else shown(clock_of(hours)) + ("+" if hours >= 24 else "")


def _row(mark: MarkShown, leg: LegShown | None, unit: SpeedUnit) -> list[str]:
    size, far = MPS_PER[unit], MILES[unit][1]
    course = "" if leg is None else f"{leg.course_deg:03.0f}"
    length = "" if leg is None else f"{leg.distance_m / far:.1f}"
    speed = "" if leg is None or leg.speed_mps is None else f"{leg.speed_mps / size:.1f}"
    ground = "" if leg is None or leg.ground_mps is None else f"{leg.ground_mps / size:.1f}"
    watts = "" if leg is None or leg.power_w is None else f"{leg.power_w:,.0f}"
    onward = "" if mark.leaves_h in (None, mark.arrives_h) else _hour(mark.leaves_h)
    charge = "" if mark.soc_frac is None else f"{100 * mark.soc_frac:.0f}"
    return [mark.name[:26], course, length, speed, ground, watts, _hour(mark.arrives_h), onward, charge]


def _answers(picture: PassagePicture) -> list[str]:
    turn, found = picture.turn_back, []
    if picture.arrives_h is not None:
        found.append(f"In at {_hour(picture.arrives_h)}{day_words(picture.arrives_h)}")
    if turn is not None and not turn.everywhere:
        found.append(f"Turn back by {_hour(turn.hours)} near {turn.near}")
    found += [
        f"Back to {one.name[:26]} by {_hour(one.hours)}"
        for one in picture.refuges
        if one.hours is not None and not one.everywhere
    ]
    if picture.sunset_h is not None:
        found.append(f"Sunset {_hour(picture.sunset_h)}")
    if picture.by_hand_h is not None:
        found.append(f"Home without the motor {picture.by_hand_h:.1f} h")
    return found


def passage_card(
    design: BoatDesign, unit: Annotated[SpeedUnit, Field(description="of speeds; distances follow it")] = "kn"
) -> bytes:
    """The passage as the bytes of a one-page A4 PDF: legs, hours, charge, the last turn, the call ashore.

    Parameters
    ----------
    design : BoatDesign
    unit : str
        Of speeds; distances follow it.
    """
    picture = passage_picture(design)
    if picture is None:
        raise no_passage()
    pdf = Sheet(format="A4")
    pdf.set_title(f"{design.name}: passage card")
    pdf.set_auto_page_break(False)
    pdf.set_margin(MARGIN_MM)
    pdf.add_page()
    first, last = picture.marks[0].name, picture.marks[-1].name
    write_line(pdf, f"{design.name}: {first} to {last}", 22, True)
    write_line(pdf, told(picture.assumes), 10, colour=MUTED)
    pdf.ln(2)
    write_line(pdf, "   ".join(_answers(picture)), 14, True)
    certain = sure(design)
    if certain is not None:
        text = f"Home above the reserve on {certain.arriving} of {certain.skies} such days."
        write_line(pdf, text, 11, colour=INK if certain.share_arriving_frac >= 0.9 else ALARM)
    pdf.ln(2)
    large = len(picture.marks) <= ROWS_LARGE
    pdf.set_draw_color(*RULE)
    pdf.set_text_color(*INK)
    with pdf.table(
        width=int(pdf.epw), align="L", text_align="RIGHT", borders_layout="HORIZONTAL_LINES",
        line_height=9 if large else 4.6, col_widths=WIDTHS, headings_style=None, first_row_as_headings=False,
    ) as table:  # fmt: skip
        pdf.set_font(FONT, "", 9)
        heading = table.row()
        for text in ("to", "course", MILES[unit][0], unit, "ground", "watts", "there", "on", "bank %"):
            heading.cell(text, align="LEFT" if text == "to" else "RIGHT")
        for k, mark in enumerate(picture.marks):
            cells = table.row()
            for index, text in enumerate(_row(mark, picture.legs[k - 1] if k else None, unit)):
                bold = index in (0, 1, 6)
                pdf.set_font(FONT, "B" if bold else "", (13 if bold else 11) if large else 8)
                cells.cell(text, align="LEFT" if index == 0 else "RIGHT")
    pdf.ln(4)
    if picture.high_waters:
        hours = ", ".join(_hour(one) for one in picture.high_waters)
        write_line(pdf, f"High water {hours}. Not for navigation.", 11)
    for text in CALLS:
        write_line(pdf, text, 11)
        pdf.ln(1)
    return bytes(pdf.output())
