"""Every refusal, in one shape: what is wrong, where, and what would be accepted.

ParhelionError
    InvalidDesign      the document breaks a rule of its own schema
    UnreadableFile     the file is no boat design, or of a version this program does not know
    NoAnswer           a number of an answer came out endless or as none: no page shows it
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

from pydantic import BaseModel, ValidationError


class Problem(BaseModel):
    """One thing that is wrong with what was given."""

    code: str
    message: str
    field: str = ""  # JSON Pointer into the document
    value: Any = None
    accepted: str | None = None
    limit: float | None = None  # of the entry's own unit, so that it can be shown in the person's
    relation: str | None = None  # with {0} for the limit, e.g. "more than {0}"


class ParhelionError(Exception):
    """Base of all refusals; carries the problems to show beside their fields."""

    def __init__(self, problems: list[Problem]):
        super().__init__("; ".join(f"{p.field or 'input'}: {p.message}" for p in problems))
        self.problems = problems


class InvalidDesign(ParhelionError):
    """The design document breaks a rule of its schema."""


class UnreadableFile(ParhelionError):
    """The file is damaged, no boat design, or newer than this program."""


class NoAnswer(ParhelionError):
    """A number of an answer came out endless, or as none."""


@contextmanager
def finite(what: str) -> Iterator[None]:
    """Numbers leave the core only finite: names what was asked and the number of its answer at fault.

    Raises
    ------
    NoAnswer
    """
    try:
        yield
    except ValidationError as error:
        at = ["/".join(map(str, item["loc"])) for item in error.errors() if item["type"] == "finite_number"]
        if not at:
            raise
        message = f"No answer for {what}: {error.title}, {at[0]} is no finite number."
        problem = Problem(
            code="not_finite", message=message, accepted="the design as it was before its last change"
        )
        raise NoAnswer([problem]) from error


_BOUNDS = {
    "greater_than": ("gt", "more than {0}"),
    "greater_than_equal": ("ge", "{0} or more"),
    "less_than": ("lt", "less than {0}"),
    "less_than_equal": ("le", "{0} or less"),
}
_TYPES = {
    "missing": ("This is missing.", "a value"),
    "string_too_short": ("This cannot be empty.", "at least one character"),
    "string_too_long": ("This is too long.", "{max_length} characters or fewer"),
    "string_pattern_mismatch": ("This is no id.", "letters, digits, - and _ only"),
    "too_long": ("There are too many of these.", "{max_length} or fewer"),
    "too_short": ("There are too few of these.", "{min_length} or more"),
    "extra_forbidden": ("This name is not part of a boat design.", "the names of the published schema"),
    "string_type": ("This is not text.", "text"),
    "tuple_type": ("This is not a list.", "a list"),
    "list_type": ("This is not a list.", "a list"),
    "model_type": ("This is not a part of a boat design.", "an object with the entries of the schema"),
    "dict_type": ("This is not a part of a boat design.", "an object with the entries of the schema"),
    "finite_number": ("This is not a finite number.", "an ordinary number"),
    "bool_parsing": ("This is neither true nor false.", "true or false"),
    "bool_type": ("This is neither true nor false.", "true or false"),
}


def _pointer(location: tuple[int | str, ...]) -> str:
    return "".join("/" + str(part).replace("~", "~0").replace("/", "~1") for part in location)


def problems_of(error: ValidationError) -> list[Problem]:
    """Pydantic's errors put in the one shape.

    Parameters
    ----------
    error : pydantic.ValidationError

    Returns
    -------
    list of Problem
    """
    return problems_from(error.errors(include_url=False))


def problems_from(items: Sequence[Any]) -> list[Problem]:
    """The same from pydantic's error records, for those who only hold these."""
    found = []
    for item in items:
        kind, context = item["type"], item.get("ctx", {})
        message, accepted = item["msg"], None
        limit, relation = context.get("limit"), context.get("relation")
        if kind in _BOUNDS:
            key, relation = _BOUNDS[kind]
            limit = float(context[key])
            accepted = relation.format(f"{limit:g}")
            message = f"{_shown(item['input'])} is outside what this can be."
        elif kind in _TYPES:
            message, phrase = _TYPES[kind]
            accepted = phrase.format(**context)
        elif kind.startswith("int"):
            message = f"{_shown(item['input'])} is not a whole number."
            accepted = "a whole number such as 4"
        elif kind.startswith("float"):
            message, accepted = f"{_shown(item['input'])} is not a number.", "a number such as 3.5"
        elif kind.startswith(("enum", "literal")):
            message, accepted = (
                f"{_shown(item['input'])} is not one of the choices.",
                str(context["expected"]),
            )
        elif kind.startswith("date"):
            message, accepted = f"{_shown(item['input'])} is not a date.", "a date such as 2026-06-13"
        elif kind.startswith("time"):
            message, accepted = f"{_shown(item['input'])} is not a time of day.", "a time such as 09:30"
        elif kind == "out_of_reach":
            accepted = context.get("accepted")
        else:
            message, accepted = (
                f"{_shown(item['input'])} does not belong here.",
                "an entry as the schema has it",
            )
        location = item["loc"]
        if context.get("field"):
            location = (*location, *str(context["field"]).split("/"))
        value = item["input"]
        if isinstance(value, dict | list | BaseModel):
            value = None
        found.append(
            Problem(
                code=kind,
                message=message,
                field=_pointer(location),
                value=value,
                accepted=accepted,
                limit=limit,
                relation=relation,
            )
        )
    return found


def _shown(value: object) -> str:
    if value is None:  # empty, or not passed on
        return "This"
    text = f"{value}" if not isinstance(value, dict | list) else "This"
    return text if len(text) <= 40 else text[:37] + "…"
