"""What every printed page shares: the letters a PDF's own fonts hold, its inks, lines of text."""

from __future__ import annotations

import unicodedata

from fpdf import FPDF
from fpdf.enums import XPos, YPos

FONT = "helvetica"  # one of the fonts every PDF reader has
INK, MUTED, RULE, ALARM = (18, 38, 43), (81, 97, 100), (203, 214, 212), (168, 40, 20)
MARGIN_MM = 14


LETTERS = str.maketrans(  # those that no decomposition brings to a letter of these fonts
    {"ł": "l", "Ł": "L", "đ": "d", "Đ": "D", "ı": "i", "ħ": "h", "Ħ": "H", "œ": "oe", "Œ": "OE", "ŋ": "n",
     "–": "-", "—": "-", "’": "'", "‘": "'", "“": '"', "”": '"', "…": "...", "−": "-", "≥": ">=", "≤": "<="}
)  # fmt: skip
LOST = "?"
SAID = "? stands for a letter that the fonts of this page do not have; the screen shows it."


def plain(text: str) -> str:
    """Text in the letters of a PDF's own fonts: accents they lack are left off, others a question mark."""
    return "".join(_letter(one) for one in text.translate(LETTERS))


def _letter(one: str) -> str:
    if ord(one) < 256:
        return one
    base = unicodedata.normalize("NFKD", one).encode("latin-1", "ignore").decode("latin-1")
    return base or ("" if unicodedata.combining(one) else LOST)


class Sheet(FPDF):
    """Pages in a PDF's own fonts; where letters are lost it is said at the foot."""

    lost = False

    def normalize_text(self, text: str) -> str:
        """Text as the fonts hold it."""
        made = plain(text)
        self.lost = self.lost or made.count(LOST) > text.count(LOST)
        return super().normalize_text(made)

    def footer(self) -> None:
        """What was lost, if anything was."""
        if self.lost:
            self.set_y(-6)
            self.set_font(FONT, "", 6.5)
            self.set_text_color(*MUTED)
            self.cell(0, 3, SAID)


def write_line(
    pdf: FPDF, text: str, size: float, bold: bool = False, colour: tuple[int, int, int] = INK
) -> None:
    """A paragraph over the width of the page."""
    pdf.set_font(FONT, "B" if bold else "", size)
    pdf.set_text_color(*colour)
    pdf.multi_cell(pdf.epw, size * 0.48, text, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
