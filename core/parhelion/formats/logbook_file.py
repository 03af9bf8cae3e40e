"""The logbook beside a design as one open JSON file."""

from __future__ import annotations

import json

from pydantic import ValidationError

from parhelion.design.logbook import Logbook
from parhelion.errors import Problem, UnreadableFile, problems_of
from parhelion.formats.boat_file import said_once

LARGEST_LOGBOOK_BYTES = 200_000_000


def _refused(code: str, message: str, accepted: str) -> UnreadableFile:
    return UnreadableFile([Problem(code=code, message=message, accepted=accepted)])


def read_logbook(content: bytes) -> Logbook:
    """The logbook of a file.

    Raises
    ------
    UnreadableFile
        With every entry that is wrong.
    """
    if len(content) > LARGEST_LOGBOOK_BYTES:
        raise _refused("too_large", "This file is larger than a logbook that is taken.", "200 MB or less")
    try:
        document = json.loads(content.decode("utf-8-sig"), object_pairs_hook=said_once)
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError):
        raise _refused("not_json", "This is no JSON file.", "a logbook file, as it was saved here") from None
    if not isinstance(document, dict) or document.get("schema_name") != "parhelion.logbook":
        raise _refused(
            "not_a_logbook", "This is no logbook.", "a file whose schema_name is parhelion.logbook"
        )
    try:
        return Logbook.model_validate(document)
    except ValidationError as error:
        raise UnreadableFile(problems_of(error)) from None


def written_logbook(logbook: Logbook) -> bytes:
    """The logbook as the bytes of a file that `read_logbook` takes."""
    return logbook.model_dump_json(indent=1, exclude_defaults=False, exclude_none=True).encode()
