"""What every printed page shares: the letters a PDF's own fonts hold, its inks, lines of text."""

from __future__ import annotations

from fpdf import FPDF
from fpdf.enums import XPos, YPos

FONT = "helvetica"  # one of the fonts every PDF reader has
INK, MUTED, RULE, ALARM = (18, 38, 43), (81, 97, 100), (203, 214, 212), (168, 40, 20)
MARGIN_MM = 14


def plain(text: str) -> str:
    """Text in the letters that a PDF's own fonts hold; others become a question mark."""
    return text.encode("latin-1", "replace").decode("latin-1")


def write_line(
    pdf: FPDF, text: str, size: float, bold: bool = False, colour: tuple[int, int, int] = INK
) -> None:
    """A paragraph over the width of the page."""
    pdf.set_font(FONT, "B" if bold else "", size)
    pdf.set_text_color(*colour)
    pdf.multi_cell(pdf.epw, size * 0.48, plain(text), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
