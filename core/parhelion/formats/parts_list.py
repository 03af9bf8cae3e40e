"""One's own list of parts to choose from: a table of panels, of batteries or of motors, told by its columns.

References
----------
[1] Batteries have a column of amp-hours or watt-hours; panels one of open volts; motors one of watts or
    thrust. Units stand in a column's heading: kW, lb, mm.
"""

from __future__ import annotations

import re
from typing import Any, Literal

from pydantic import ValidationError

from parhelion.design import Bank, Chemistry, Drive, PanelModel, Rating
from parhelion.errors import problems_of
from parhelion.formats.cell_number import Unread, columns_named, number_in, pointed
from parhelion.formats.module_table import MOST_TOLD, read_panel_list
from parhelion.formats.runs_table import LineProblem
from parhelion.formats.table import rows_of, unmarked
from parhelion.quantities import Frozen
from parhelion.units import KG_PER_POUND, N_PER_POUND_FORCE

MOST_ROWS = 5_000
LONGEST_NAME = 60
HEADS = {
    "unit_ah": ("ah", "amp-hours", "amp hours"),
    "unit_wh": ("wh", "kwh", "watt-hours", "energy"),
    "unit_v": ("volts", "voltage", "v"),
    "chemistry": ("chemistry", "type", "kind"),
    "static_thrust_n": ("thrust", "lbf"),
    "rated_power_w": ("watts", "power", "w", "kw"),
    "mass_kg": ("mass", "weight", "kg", "lb", "lbs"),
    "price": ("price", "cost", "each", "coins"),
    "name": ("name", "model", "item", "part", "battery", "motor"),
}
OPEN_VOLTS = re.compile(r"\b(voc|v_oc|open.?circuit)", re.I)
SIZES = {  # of a column, where its heading names the unit
    "rated_power_w": (("kw", 1000.0),),
    "unit_wh": (("kwh", 1000.0),),
    "mass_kg": (("lb", KG_PER_POUND), ("lbs", KG_PER_POUND)),
    "static_thrust_n": (("lb", N_PER_POUND_FORCE), ("lbs", N_PER_POUND_FORCE), ("lbf", N_PER_POUND_FORCE)),
}
WORDS = (  # of a chemistry, as sellers write it; the first that fits
    (("lfp", "lifepo", "iron"), Chemistry.LFP),
    (("nmc", "li-ion", "lithium-ion", "lithium ion"), Chemistry.NMC),
    (("agm",), Chemistry.AGM),
    (("gel",), Chemistry.GEL),
    (("flooded", "wet", "lead"), Chemistry.FLOODED),
)
WANTED = (
    "panels with STC, Voc, Isc, Vmp, Imp and N_s; batteries with volts and Ah, their chemistry, mass and "
    "price; or motors with watts or thrust, mass and price"
)


class ReadPartList(Frozen):
    """Parts of one kind to choose from, and the lines that are wrong."""

    kind: Literal["panels", "batteries", "motors"]
    rows: int
    worse: int  # left out: others of the list are better in all, or there are too many
    panels: list[PanelModel] = []
    units: list[Bank] = []
    motors: list[Drive] = []
    problems: list[LineProblem]


def read_part_list(text: str, most_panels: int, most_others: int) -> ReadPartList:
    """A person's own list of parts [1].

    Parameters
    ----------
    text : str
        Comma-, semicolon- or tab-separated, with a header row.
    most_panels, most_others : int
        The cheapest are kept where there are more.
    """
    top = [line for line in text.replace("\r", "\n")[:20_000].split("\n") if line.strip()][:3]
    if any(OPEN_VOLTS.search(line) for line in top):
        found = read_panel_list(text, most_panels)
        return ReadPartList(
            kind="panels", rows=found.rows, worse=found.worse, panels=found.panels, problems=found.problems
        )
    mark = max(("\t", ";", ","), key=top[0].count) if top else ","
    rows = [row for row in rows_of(text, mark) if any(cell.strip() for cell in row)] or [[]]
    columns = columns_named(rows[0], HEADS)
    batteries = {"unit_ah", "unit_wh"} & set(columns)
    if not batteries and not {"rated_power_w", "static_thrust_n"} & set(columns):
        told = _told(1, rows[0], "This is no list of panels, batteries or motors.", WANTED)
        return ReadPartList(kind="panels", rows=len(rows) - 1, worse=0, problems=[told])
    made, problems = _rows(rows, columns, bool(batteries))
    kept = sorted(made, key=_price)[:most_others]
    return ReadPartList(
        kind="batteries" if batteries else "motors",
        rows=len(rows) - 1,
        worse=len(made) - len(kept),
        units=[one for one in kept if isinstance(one, Bank)],
        motors=[one for one in kept if isinstance(one, Drive)],
        problems=problems[:MOST_TOLD],
    )


def _price(part: Bank | Drive) -> float:
    price = part.unit_price if isinstance(part, Bank) else part.price
    return float("inf") if price is None else price


def _told(line: int, row: list[str], message: str, accepted: str) -> LineProblem:
    return LineProblem(line=line, text=", ".join(row)[:120], message=message, accepted=accepted)


def _rows(
    rows: list[list[str]], columns: dict[str, int], batteries: bool
) -> tuple[list[Bank | Drive], list[LineProblem]]:
    """Every row that can be read as a part, and what is wrong with the others."""
    texts = ("name", "chemistry")
    points = {
        name: pointed([row[at] for row in rows[1:MOST_ROWS] if at < len(row)])
        for name, at in columns.items() if name not in texts
    }  # fmt: skip
    sizes = {name: _size(name, rows[0][at]) for name, at in columns.items()}
    made: list[Bank | Drive] = []
    problems: list[LineProblem] = []
    for line, row in enumerate(rows[1:], start=2):
        if line > MOST_ROWS:
            problems.append(_told(line, row, "This row and those after it were left.", f"{MOST_ROWS} rows"))
            break
        said = {name: row[at].strip() if at < len(row) else "" for name, at in columns.items()}
        try:
            values: dict[str, Any] = {}
            for name, point in points.items():
                number = number_in(said[name], point)
                if number is not None:
                    values[name] = number * sizes[name]
            name = unmarked(said.get("name", ""))[:LONGEST_NAME]
            made.append(
                _battery(len(made), name, said, values) if batteries else _motor(len(made), name, values)
            )
        except Unread as reason:
            problems.append(_told(line, row, str(reason), reason.accepted))
        except ValidationError as error:
            wrong = problems_of(error)[0]
            problems.append(_told(line, row, wrong.message, wrong.accepted or "another value"))
    return made, problems


def _size(name: str, heading: str) -> float:
    words = re.findall(r"[a-z]+", heading.lower())
    return next((size for unit, size in SIZES.get(name, ()) if unit in words), 1.0)


def _battery(number: int, name: str, said: dict[str, str], values: dict[str, Any]) -> Bank:
    volts = values.get("unit_v")
    if not volts:
        raise Unread("Nothing says its volts.", "nominal volts, such as 12.8")
    ah = values.get("unit_ah") or values.get("unit_wh", 0.0) / volts
    if not ah:
        raise Unread("Nothing says how much it holds.", "amp-hours, or watt-hours")
    return Bank(
        id=f"battery-{number}", name=name or "Battery", chemistry=_chemistry(said, name), unit_v=volts,
        unit_ah=ah, unit_mass_kg=values.get("mass_kg"), unit_price=values.get("price"),
    )  # fmt: skip


def _chemistry(said: dict[str, str], name: str) -> Chemistry:
    for text in (said.get("chemistry", ""), name):
        low = text.lower()
        for words, chemistry in WORDS:
            if any(word in low for word in words):
                return chemistry
    raise Unread("Nothing says its chemistry.", "a column chemistry with LFP, NMC, AGM, gel or flooded")


def _motor(number: int, name: str, values: dict[str, Any]) -> Drive:
    watts, thrust = values.get("rated_power_w"), values.get("static_thrust_n")
    if not watts and not thrust:
        raise Unread("Nothing says how strong it is.", "watts it takes from the battery, or its thrust")
    return Drive(
        id=f"motor-{number}", name=name or "Motor", rating=Rating.BATTERY if watts else Rating.THRUST,
        rated_power_w=watts or None, static_thrust_n=None if watts else thrust,
        mass_kg=values.get("mass_kg"), price=values.get("price"),
    )  # fmt: skip
