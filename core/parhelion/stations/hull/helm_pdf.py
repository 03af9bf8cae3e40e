"""The helm card as a one-page PDF: to print, laminate and tape beside the throttle."""

from __future__ import annotations

from parhelion.formats.pdf_page import FONT, INK, MARGIN_MM, MUTED, RULE, Sheet, write_line
from parhelion.formats.plain import told
from parhelion.stations.hull.helm import HelmCard, HelmRow
from parhelion.units import MPS_PER, SpeedUnit

DISTANCE_UNITS: dict[str, tuple[str, float]] = {
    "kn": ("nm", 1852.0),
    "km/h": ("km", 1000.0),
    "mph": ("mi", 1609.344),
}


def _hours(hours: float | None) -> str:
    if hours is None:
        return "no end"
    minutes = round(hours * 60)
    return f"{minutes // 60} h {minutes % 60:02d}"


def _cells(card: HelmCard, row: HelmRow, unit: SpeedUnit) -> list[str]:
    size = DISTANCE_UNITS[unit][1]
    cells = [
        f"{row.speed_mps / MPS_PER[unit]:.1f}", f"{row.power_w:,.0f}",
        f"{row.low_w:,.0f}-{row.high_w:,.0f}",
    ]  # fmt: skip
    if card.skies:
        cells += [_hours(row.bank_hours), _hours(row.reserve_hours)]
        cells += ["no end" if far is None else f"{far / size:,.0f}" for far in row.range_m]
    return cells


def _widths(card: HelmCard) -> tuple[int, ...]:
    """Shares of the page's width, column by column."""
    return (12, 16, 27, *((17, 14) if card.skies else ()), *(17 for _ in card.skies))


def helm_card_pdf(card: HelmCard, boat: str, unit: SpeedUnit) -> bytes:
    """The card as the bytes of a one-page A4 PDF.

    Parameters
    ----------
    card : HelmCard
    boat : str
        Its name.
    unit : str
        The unit of speed that its rows are round in; distances follow it.
    """
    pdf = Sheet(format="A4")
    pdf.set_title(f"{boat}: helm card")
    pdf.set_auto_page_break(False)
    pdf.set_margin(MARGIN_MM)
    pdf.add_page()

    def line(text: str, size: float, bold: bool = False, colour: tuple[int, int, int] = INK) -> None:
        write_line(pdf, text, size, bold, colour)

    line(boat, 26, True)
    line(told(card.assumes), 10, colour=MUTED)
    pdf.ln(2)
    size = MPS_PER[unit]
    speeds = [
        f"{name} {value / size:.1f} {unit}"
        for name, value in (("On the sun, steady:", card.sun_only_mps), ("at noon:", card.noon_mps))
        if value is not None
    ]
    if speeds:
        line(f"{'   '.join(speeds)}   ({card.plan_sky} sky)", 13, True)
        pdf.ln(2)
    head = [f"{unit}", "watts", "9 boats of 10"]
    if card.skies:
        distance = DISTANCE_UNITS[unit][0]
        head += ["h, bank alone", f"h, {card.plan_sky}"]
        head += [f"{distance}, {sky.label}" for sky in card.skies]
    pdf.set_draw_color(*RULE)
    pdf.set_text_color(*INK)
    with pdf.table(
        width=int(pdf.epw), align="L", text_align="RIGHT", borders_layout="HORIZONTAL_LINES", line_height=10,
        col_widths=_widths(card),
        headings_style=None, first_row_as_headings=False,
    ) as table:  # fmt: skip
        pdf.set_font(FONT, "", 9)
        heading = table.row()
        for text in head:
            heading.cell(text)
        for row in card.rows:
            cells = table.row()
            for index, text in enumerate(_cells(card, row, unit)):
                pdf.set_font(FONT, "B" if index < 2 else "", 15 if index < 2 else 11)
                cells.cell(text)
    pdf.ln(4)
    if card.tape:
        marks = "    ".join(f"{mark.label} {mark.volts:.1f} V" for mark in card.tape)
        line(f"Voltmeter, at rest:  {marks}", 11, True)
        pdf.ln(1)
    if card.reserve_frac is not None:
        line(f"Range and hours run to the reserve of {100 * card.reserve_frac:.0f} %.", 10)
    line(f"Watts by {card.method}.", 10, colour=MUTED)
    pdf.ln(2)
    for caution in card.cautions:
        line(caution, 10)
    return bytes(pdf.output())
