"""The Fit-out on paper: parts as CSV; steps to sign, charge settings, labels and parts for the print pack."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.design import BoatDesign
from parhelion.design.records import NO_RECORDS, Records
from parhelion.formats.pdf_page import ALARM, FONT, INK, MARGIN_MM, MUTED, RULE, Sheet, write_line
from parhelion.formats.table import written_table
from parhelion.stations.fitout.now import usual_now
from parhelion.stations.fitout.parts import Line, lines_of
from parhelion.stations.fitout.picture import FitoutPicture, StepOut, fitout_picture
from parhelion.wiring.charging import charge_settings
from parhelion.wiring.circuits import wiring_of

COLUMNS = (
    "system",
    "part",
    "quantity",
    "unit",
    "price each",
    "price",
    "mass each kg",
    "mass kg",
    "state",
    "used",
    "due",
    "note",
    "link",
)
CAUTION = (
    "The maker's own order, local codes, the small-craft electrical standard in force where you are and "
    "licensed "
    "practice come first. Panels are live whenever it is light; over 60 V direct current shocks, and arcs "
    "do not stop."
)
TAPE_MM = 180.0


def _row(line: Line) -> list[object]:
    note = line.note

    def told(value: float | None) -> str:
        return "" if value is None else f"{value:g}"

    return [
        line.part.system.label,
        note.name if note and (line.own or line.gone) else line.part.name,
        f"{line.quantity:g}",
        line.part.unit or "pieces",
        told(line.price),
        told(line.cost),
        told(line.mass_kg),
        told(line.mass),
        "bought, not in the design" if line.gone else line.state.label,
        "yes" if note and note.used else "",
        note.due.isoformat() if note and note.due else "",
        note.note if note else "",
        note.link if note else "",
    ]


def parts_csv(design: BoatDesign, records: Records = NO_RECORDS) -> str:
    """The parts list, a part a row."""
    return written_table([COLUMNS, *[_row(line) for line in lines_of(design, records)]])


class _Pack(Sheet):
    """Pages with a foot on each."""

    def __init__(self, name: str) -> None:
        super().__init__(format="A4")
        self.boat = name
        self.set_margins(MARGIN_MM, MARGIN_MM)
        self.set_auto_page_break(True, 18)

    def footer(self) -> None:
        self.set_y(-14)
        self.set_font(FONT, "", 8)
        self.set_text_color(*MUTED)
        self.cell(0, 5, f"{self.boat}  -  page {self.page_no()}")
        super().footer()

    def heading(self, text: str) -> None:
        write_line(self, text, 16, True)
        self.ln(2)

    def table(self, widths: tuple[float, ...], rows: list[list[str]], bold_first: bool = True) -> None:
        for index, row in enumerate(rows):
            if self.get_y() > self.h - 24:
                self.add_page()
            self.set_font(FONT, "B" if bold_first and index == 0 else "", 9)
            self.set_text_color(*INK)
            self.set_draw_color(*RULE)
            for width, cell in zip(widths, row, strict=True):
                text = cell
                while text and self.get_string_width(text) > width - 1.5:
                    text = text[:-1]
                self.cell(width, 6, text, border="B")
            self.ln(6)


def _steps(pdf: _Pack, steps: list[StepOut]) -> None:
    pdf.add_page()
    pdf.heading("Connecting, in this order")
    write_line(pdf, CAUTION, 9.5, colour=ALARM)
    pdf.ln(2)
    for step in steps:
        if pdf.get_y() > pdf.h - 46:
            pdf.add_page()
        live = f"   up to {step.live_v:.0f} V" if step.live_v else ""
        write_line(pdf, f"{step.number}.  {step.title}{live}", 11.5, True)
        write_line(pdf, f"{step.what} {step.meter}".strip(), 9.5, colour=MUTED)
        for item in step.items:
            should = f"   {item.expected_v[0]:.1f} to {item.expected_v[1]:.1f} V" if item.expected_v else ""
            read = f"   read {item.reading:g} {item.unit}" if item.reading is not None and item.unit else ""
            box = "[x]" if item.good else "[  ]"
            blank = "" if item.good or item.unit is None else "   ________ V"
            write_line(pdf, f"      {box} {item.name}{should}{read}{blank}", 10)
        pdf.ln(1.5)
    write_line(pdf, "Date ______________   Proved by __________________________", 10.5)


def _back(pdf: _Pack, steps: list[StepOut]) -> None:
    pdf.add_page()
    pdf.heading("Taking apart: the other way round")
    for number, step in enumerate([step for step in reversed(steps) if step.back], start=1):
        write_line(pdf, f"[  ] {number}.  {step.back}", 10.5)


def _settings(pdf: _Pack, design: BoatDesign) -> None:
    if not design.banks:
        return
    pdf.add_page()
    pdf.heading("Charge settings, and a tape for the voltmeter")
    for bank in design.banks:
        found = charge_settings(bank)
        write_line(
            pdf,
            f"{bank.name}: {bank.chemistry.label}, {bank.nominal_v:.1f} V {bank.capacity_ah:.0f} Ah",
            12,
            True,
        )
        pdf.table(
            (60, 50),
            [
                ["Set", "to"],
                ["Absorption", f"{found.absorption_v:.1f} V for {found.absorption_h:g} h"],
                ["Float", f"{found.float_v:.1f} V"],
                ["No charge below", f"{found.no_charge_below_c:g} C"],
                ["Loads off at", f"{found.cut_out_v:.1f} V"],
                ["Loads on again at", f"{found.resume_v:.1f} V"],
            ],
        )
        _tape(pdf, found.cut_out_v, found.resume_v, found.float_v, found.absorption_v)
    write_line(pdf, "Usual for the chemistry; the bank maker's own numbers come first.", 9, colour=MUTED)


def _tape(pdf: _Pack, cut_out: float, resume: float, floats: float, absorption: float) -> None:
    """A strip to cut out and tape beside the voltmeter."""
    pdf.ln(3)
    low, high = cut_out * 0.96, absorption * 1.03
    x0, y = pdf.l_margin, pdf.get_y()

    def at(volts: float) -> float:
        return x0 + TAPE_MM * (volts - low) / (high - low)

    pdf.set_draw_color(*INK)
    pdf.rect(x0, y, TAPE_MM, 16)
    pdf.set_font(FONT, "", 8)
    for volts, words in ((cut_out, "off"), (resume, "on again"), (floats, "float"), (absorption, "full")):
        pdf.line(at(volts), y, at(volts), y + 6)
        pdf.text(at(volts) - 6, y + 10, f"{volts:.1f}")
        pdf.text(at(volts) - 6, y + 14, words)
    pdf.set_y(y + 22)


def _labels(pdf: _Pack, design: BoatDesign) -> None:
    wiring = wiring_of(design)
    labels = [
        f"{c.name}: PV, up to {c.cold_v:.0f} V DC, breaker {c.breaker_a or 0:g} A. Live in light."
        for c in wiring.circuits
        if c.strings
    ]
    labels += [
        f"{run.name}: {bank.nominal_v:.1f} V, main fuse {run.cable.fuse_a or 0:g} A"
        for bank, run in zip(design.banks, wiring.bank_runs, strict=False)
    ]
    labels += [
        f"{run.name}: {run.cable.size_mm2:g} mm2, fuse {run.cable.fuse_a or 0:g} A"
        for run in wiring.motor_runs
    ]
    if not labels:
        return
    pdf.add_page()
    pdf.heading("Labels for breakers, banks and cables")
    for label in labels:
        y = pdf.get_y()
        pdf.set_draw_color(*INK)
        pdf.rect(pdf.l_margin, y, 120, 13)
        pdf.set_xy(pdf.l_margin + 3, y + 3)
        pdf.set_font(FONT, "B", 9.5)
        pdf.set_text_color(*INK)
        pdf.cell(114, 7, label[:70])
        pdf.set_xy(pdf.l_margin, y + 16)


def _parts(pdf: _Pack, picture: FitoutPicture) -> None:
    pdf.add_page()
    pdf.heading("Parts and cost")
    sign = picture.money.currency
    rows = [["", "part", "pieces", f"each, {sign}", f"all, {sign}", "kg", ""]]
    for system in picture.systems:
        rows.append(["", system.label.upper(), "", "", f"{system.cost:,.0f}", f"{system.mass_kg:.1f}", ""])
        for line in system.lines:
            rows.append(
                [
                    {"have": "x", "ordered": "/"}.get(line.state, ""),
                    line.name,
                    f"{line.quantity:g} {line.unit}".strip(),
                    "-" if line.price is None else f"{line.price:,.2f}",
                    "-" if line.cost is None else f"{line.cost:,.0f}",
                    "-" if line.mass_kg is None else f"{line.mass_kg:.1f}",
                    "usual" if line.guessed and line.price is not None else "",
                ]
            )
    pdf.table((7, 84, 20, 22, 22, 14, 13), rows)
    money = picture.money
    pdf.ln(2)
    write_line(
        pdf,
        f"All of it {money.cost:,.0f} {sign}, {money.mass_kg:.0f} kg; paid {money.paid:,.0f}, on order "
        f"{money.ordered:,.0f}, to buy {money.to_buy:,.0f}. {money.no_price} without a price, "
        f"{money.no_mass} not weighed. x aboard, / on order.",
        10,
    )


def _before(pdf: _Pack, picture: FitoutPicture) -> None:
    pdf.add_page()
    pdf.heading("Before the first trip")
    for check in picture.checks:
        write_line(pdf, f"[{'x' if check.at else '  '}]  {check.words}", 11)
        pdf.ln(1)


def fitout_pdf(
    design: BoatDesign,
    records: Records = NO_RECORDS,
    only: Annotated[str, Field(max_length=12, description="steps, parts, or empty for the whole pack")] = "",
) -> bytes:
    """Steps to sign, the way back, charge settings, labels, parts and the last list, as a PDF.

    Parameters
    ----------
    design : BoatDesign
    records : Records
    only : str
        `steps` or `parts` for that alone.
    """
    picture = fitout_picture(design, records, at=usual_now(design).at)
    pdf = _Pack(design.name)
    if only in ("", "steps"):
        _steps(pdf, picture.steps)
        _back(pdf, picture.steps)
    if only == "":
        _settings(pdf, design)
        _labels(pdf, design)
    if only in ("", "parts"):
        _parts(pdf, picture)
    if only == "":
        _before(pdf, picture)
    return bytes(pdf.output())
