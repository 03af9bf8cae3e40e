"""Whether a panel's datasheet can be true: watts against volts times amps, and what bounds what."""

from __future__ import annotations

from typing import NamedTuple

from parhelion.design import Build, PanelModel

NAMEPLATE_OFF = 0.06  # Vmp x Imp may differ from the nameplate by rounding and sorting
FILL = (0.55, 0.87)  # of Vmp Imp over Voc Isc; silicon panels lie at .70 to .83
MOST_W_PER_M2 = 245.0  # the best silicon panels give some 230
CELL_V = (0.45, 0.80)  # of an open cell of silicon


class Doubt(NamedTuple):
    """One thing that cannot be true of a datasheet: the entry, what is wrong, what would be believed."""

    field: str
    message: str
    accepted: str


def doubts(panel: PanelModel) -> list[Doubt]:
    """What cannot be true of a panel, in order of how wrong it is."""
    found = []
    voc, isc, vmp, imp = panel.open_circuit_v, panel.short_circuit_a, panel.best_v, panel.best_a
    if voc is not None and vmp is not None and voc <= vmp:
        found.append(Doubt("open_circuit_v", f"Voc {voc:g} V is not above Vmp {vmp:g} V.",
                           f"more than {vmp:g} V; usually about {vmp * 1.2:.3g} V"))  # fmt: skip
    if isc is not None and imp is not None and isc <= imp:
        found.append(Doubt("short_circuit_a", f"Isc {isc:g} A is not above Imp {imp:g} A.",
                           f"more than {imp:g} A; usually about {imp * 1.06:.3g} A"))  # fmt: skip
    if vmp is not None and imp is not None and abs(vmp * imp / panel.nameplate_w - 1) > NAMEPLATE_OFF:
        made = vmp * imp
        found.append(Doubt("nameplate_w", f"Vmp x Imp is {made:.0f} W, not {panel.nameplate_w:g} W.",
                           f"a nameplate near {made:.0f} W, or other volts and amps"))  # fmt: skip
    if not found and None not in (voc, isc, vmp, imp):
        assert voc and isc and vmp and imp
        fill = vmp * imp / (voc * isc)
        if not FILL[0] <= fill <= FILL[1]:
            found.append(Doubt("best_v", f"Vmp x Imp is {fill:.2f} of Voc x Isc.", "0.70 to 0.83 of it"))
    density = panel.nameplate_w / (panel.width * panel.length)
    if density > MOST_W_PER_M2:
        found.append(
            Doubt("panel_length_m", f"{density:.0f} W on a square metre is more than panels give.",
                  "sides in metres of one panel, or fewer watts")
        )  # fmt: skip
    if panel.build is not Build.FOLDING and voc is not None:
        cells = panel.grid.in_series
        if not CELL_V[0] <= voc / cells <= CELL_V[1]:
            message = f"Voc {voc:g} V over {cells:.0f} cells in series is {voc / cells:.2f} V each."
            found.append(
                Doubt("cells_along", message, "rows and columns as on the panel: 0.6 to 0.75 V a cell")
            )
    return found
