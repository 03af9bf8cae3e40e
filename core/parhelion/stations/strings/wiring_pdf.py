"""The wiring on paper: the one-line diagram, the cables, what to set, the parts, what it was held against."""

from __future__ import annotations

from typing import NamedTuple

from fpdf import FPDF

from parhelion.finding import Finding
from parhelion.formats.pdf_page import ALARM, FONT, INK, MARGIN_MM, MUTED, RULE, Sheet, write_line
from parhelion.formats.plain import told
from parhelion.stations.strings.picture import BankBox, Line, StringsPicture, Wire

PANELS_X, BREAKER_X, BOX_X, BUS_X, BANK_X, USER_X = 14.0, 66.0, 96.0, 164.0, 182.0, 232.0
WIDE, LOW, ROW_MM, TOP_MM, MOST_ROW_MM = 46.0, 15.0, 22.0, 34.0, 34.0
CAUTION = (
    "Ampacity and settings are usual ones: the makers' own numbers, the small-craft electrical standard in "
    "force where you are and licensed practice come first."
)


def _size(wire: Wire) -> str:
    return f"{wire.size_mm2:g} mm2, {wire.length_m:g} m{'' if wire.length_given else ' (usual)'}"


class _Right(NamedTuple):
    """What stands at the right of a bank: a user, or another source of charge."""

    name: str
    watts: float
    bank_id: str | None
    cable: Wire | None


def _right(picture: StringsPicture) -> list[_Right]:
    users = [_Right(user.name, user.watts, user.bank_id, user.cable) for user in picture.consumers]
    return users + [_Right(f"from {c.name}", c.watts, c.bank_id, c.wire) for c in picture.chargers]


class _Drawing:
    """One-line symbols on a page, placed by their middles [mm]."""

    def __init__(self, pdf: FPDF):
        self.pdf = pdf

    def text(self, x: float, y: float, text: str, size: float = 8, bold: bool = False) -> None:
        self.pdf.set_text_color(*INK)
        self.pdf.set_font(FONT, "B" if bold else "", size)
        self.pdf.text(x, y, text)

    def box(self, x: float, y: float, title: str, below: str, alarm: bool = False) -> None:
        self.pdf.set_draw_color(*(ALARM if alarm else INK))
        self.pdf.set_line_width(0.6 if alarm else 0.3)
        self.pdf.rect(x, y - LOW / 2, WIDE, LOW)
        self.text(x + 2, y - 1, title[:26], 9, True)
        self.text(x + 2, y + 4, below[:32])
        self.pdf.set_draw_color(*INK)
        self.pdf.set_line_width(0.3)

    def wire(self, x1: float, x2: float, y: float, above: str = "", under: str = "") -> None:
        self.pdf.line(x1, y, x2, y)
        self.text(x1 + 1, y - 1.2, above, 6.5)
        self.text(x1 + 1, y + 3.2, under, 6.5)

    def guard(self, x: float, y: float, amps: float | None) -> None:
        """A fuse or a breaker on a wire."""
        self.pdf.set_fill_color(255, 255, 255)
        self.pdf.rect(x - 3, y - 1.5, 6, 3, style="DF")
        self.text(x - 4, y + 5, "no fuse that large" if amps is None else f"{amps:g} A", 7, True)


def _panel_line(drawing: _Drawing, line: Line, y: float, bus_x: float, bank_y: float | None) -> None:
    drawing.box(PANELS_X, y, line.panels, line.arrangement, line.alarm)
    drawing.wire(PANELS_X + WIDE, BOX_X, y, _size(line.cable), f"AWG {line.cable.gauge}")
    if line.breaker_a is not None:
        drawing.guard(BREAKER_X + 20, y, line.breaker_a)
    if line.string_fuse:
        drawing.text(PANELS_X + 2, y + LOW / 2 + 3, "a fuse in every string", 7, True)
    boxes = f"{line.boxes} boxes alike" if line.boxes > 1 else ""
    drawing.box(BOX_X, y, line.controller, boxes, line.alarm)
    if line.out is None or bank_y is None:
        return
    drawing.wire(BOX_X + WIDE, bus_x, y, f"{line.out.size_mm2:g} mm2", f"{line.out.length_m:g} m")
    drawing.guard((BOX_X + WIDE + bus_x) / 2 + 3, y, line.out.fuse_a)
    drawing.pdf.line(bus_x, y, bus_x, bank_y)


def _bank(drawing: _Drawing, bank: BankBox, y: float, bus_x: float) -> None:
    drawing.box(BANK_X, y, bank.name, f"{bank.nominal_v:g} V {bank.capacity_ah:.0f} Ah, {bank.chemistry}")
    drawing.wire(bus_x, BANK_X, y)
    drawing.guard((bus_x + BANK_X) / 2, y, bank.wire.fuse_a)
    drawing.text(BANK_X + 2, y + LOW / 2 + 3, f"to its bus: {_size(bank.wire)}", 7)


def _user(drawing: _Drawing, user: _Right, y: float, bank_y: float) -> None:
    x = USER_X + 4
    drawing.pdf.line(BANK_X + WIDE, bank_y, x, bank_y)
    drawing.pdf.line(x, bank_y, x, y)
    drawing.pdf.line(x, y, x + 6, y)
    drawing.pdf.rect(x + 6, y - LOW / 2, 38, LOW)
    drawing.text(x + 8, y - 1, user.name[:20], 9, True)
    drawing.text(x + 8, y + 4, f"{user.watts:,.0f} W")
    if user.cable is not None:
        fuse = f", fuse {user.cable.fuse_a:g} A" if user.cable.fuse_a is not None else ""
        drawing.text(x + 8, y + LOW / 2 + 3, f"{_size(user.cable)}{fuse}", 6.5)


def _diagram(pdf: FPDF, picture: StringsPicture, boat: str) -> None:
    pdf.add_page(orientation="L")
    write_line(pdf, f"{boat}: wiring, one line", 18, True)
    write_line(
        pdf,
        "Drawn from the design; alarms in red. Lengths are one way; both conductors alike.",
        9,
        colour=MUTED,
    )
    drawing = _Drawing(pdf)
    pdf.set_draw_color(*INK)
    right = _right(picture)
    rows = max(len(picture.lines), len(right), 2 * len(picture.banks), 1)
    tall = pdf.h - TOP_MM - MARGIN_MM
    row = min(MOST_ROW_MM, tall / rows)

    def y_of(index: int, of: int) -> float:
        return TOP_MM + (index + 0.5) * rows * row / max(of, 1)

    bank_y = {bank.id: y_of(i, len(picture.banks)) for i, bank in enumerate(picture.banks)}
    bus_x = {bank.id: BUS_X + 5.0 * i for i, bank in enumerate(picture.banks)}
    for i, line in enumerate(picture.lines):
        key = line.bank_id or ""
        _panel_line(drawing, line, y_of(i, len(picture.lines)), bus_x.get(key, BUS_X), bank_y.get(key))
    for bank in picture.banks:
        _bank(drawing, bank, bank_y[bank.id], bus_x[bank.id])
    for i, joint in enumerate(picture.converters):
        x = BANK_X + WIDE - 4 - 5 * i
        high, low = sorted((bank_y[joint.from_bank_id], bank_y[joint.to_bank_id]))
        pdf.line(x, high + LOW / 2, x, low - LOW / 2)
        y = (high + low) / 2 + 9 * (i - (len(picture.converters) - 1) / 2)
        drawing.text(BANK_X - 2, y, f"DC-DC converter, {joint.watts:,.0f} W", 8, True)
        sizes = f"{joint.in_wire.size_mm2:g} mm2 in, {joint.out_wire.size_mm2:g} mm2 out"
        drawing.text(BANK_X - 2, y + 4, sizes, 6.5)
    for i, user in enumerate(right):
        y = y_of(i, len(right))
        _user(drawing, user, y, bank_y.get(user.bank_id or "", y))


def _table(pdf: FPDF, widths: tuple[int, ...], rows: list[tuple[str, ...]]) -> None:
    pdf.set_draw_color(*RULE)
    pdf.set_text_color(*INK)
    pdf.set_font(FONT, "", 9)
    with pdf.table(
        width=int(pdf.epw), align="L", borders_layout="HORIZONTAL_LINES", line_height=5.5, col_widths=widths
    ) as table:
        for row in rows:
            cells = table.row()
            for text in row:
                cells.cell(text)
    pdf.ln(4)


def _cables(picture: StringsPicture) -> list[tuple[str, ...]]:
    runs: list[tuple[str, Wire, str]] = []
    for line in picture.lines:
        breaker = "-" if line.breaker_a is None else f"breaker {line.breaker_a:g} A"
        runs.append((f"{line.panels} to {line.controller}", line.cable, breaker))
        if line.out is not None:
            runs.append((f"{line.controller} to the bank", line.out, _fuse(line.out)))
    runs += [(f"{bank.name} to its bus", bank.wire, _fuse(bank.wire)) for bank in picture.banks]
    runs += [(f"Bus to {u.name}", u.cable, _fuse(u.cable)) for u in picture.consumers if u.cable is not None]
    for joint in picture.converters:
        runs += [("Bus to the converter", joint.in_wire, _fuse(joint.in_wire))]
        runs += [("Converter to the other bus", joint.out_wire, _fuse(joint.out_wire))]
    runs += [(f"{c.name} to the bank", c.wire, _fuse(c.wire)) for c in picture.chargers]
    return [("run", "carries", "one way", "copper", "loses", "protected by"), *(_row(*run) for run in runs)]


def _row(name: str, wire: Wire, guard: str) -> tuple[str, ...]:
    copper = f"{wire.size_mm2:g} mm2, AWG {wire.gauge}"
    lost = f"{100 * wire.drop_frac:.1f} %, {wire.loss_w:.0f} W"
    return name, f"{wire.current_a:.0f} A", f"{wire.length_m:g} m", copper, lost, guard


def _fuse(wire: Wire) -> str:
    return "over the largest fuse" if wire.fuse_a is None else f"fuse {wire.fuse_a:g} A"


def _settings(bank: BankBox) -> list[tuple[str, ...]]:
    per_k = bank.compensation_v_per_k
    equalise = bank.equalise_v
    return [
        (f"{bank.name}, {bank.chemistry}", f"{bank.nominal_v:g} V"),
        ("Absorption", f"{bank.absorption_v:.1f} V for {bank.absorption_h:g} h"),
        ("Float", f"{bank.float_v:.1f} V"),
        ("Equalise", "never" if equalise is None else f"{equalise:.1f} V, now and then, watched"),
        ("With heat", "none" if per_k is None else f"{1000 * per_k:.0f} mV a degree from 25 C"),
        ("No charge below, above", f"{bank.no_charge_below_c:g} C, {bank.no_charge_above_c:g} C"),
        ("Loads off, on again", f"{bank.cut_out_v:.1f} V, {bank.resume_v:.1f} V"),
    ]


def wiring_pdf(picture: StringsPicture, findings: list[Finding], boat: str) -> bytes:
    """Diagram, cables, settings and parts as the bytes of an A4 PDF.

    Parameters
    ----------
    picture : StringsPicture
    findings : list of Finding
    boat : str
        Its name.
    """
    pdf = Sheet(format="A4")
    pdf.set_title(f"{boat}: wiring")
    pdf.set_margin(MARGIN_MM)
    pdf.set_auto_page_break(True, MARGIN_MM)
    _diagram(pdf, picture, boat)
    pdf.add_page(orientation="P")
    write_line(pdf, "Cables", 14, True)
    _table(pdf, (30, 11, 11, 19, 16, 20), _cables(picture))
    write_line(pdf, "What to set on every controller", 14, True)
    for bank in picture.banks:
        _table(pdf, (30, 40), _settings(bank))
    write_line(pdf, "Parts", 14, True)
    parts = [
        (f"{p.quantity:g} {p.unit if p.unit != 'pieces' else ''}", p.item, p.where) for p in picture.parts
    ]
    _table(pdf, (12, 40, 50), [("how many", "what", "where"), *parts])
    write_line(pdf, "What it tells", 14, True)
    for finding in findings:
        write_line(pdf, told(finding.title), 10, True, ALARM if finding.level == "warn" else INK)
        write_line(pdf, told(finding.detail), 9, colour=MUTED)
        pdf.ln(1)
    write_line(pdf, CAUTION, 9)
    return bytes(pdf.output())
