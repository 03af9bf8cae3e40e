"""The records beside a design as one open JSON file."""

from __future__ import annotations

import json

from pydantic import ValidationError

from parhelion.design.records import Records
from parhelion.errors import Problem, UnreadableFile, problems_of
from parhelion.formats.boat_file import said_once

LARGEST_RECORDS_BYTES = 8_000_000


def _refused(code: str, message: str, accepted: str) -> UnreadableFile:
    return UnreadableFile([Problem(code=code, message=message, accepted=accepted)])


def read_records(content: bytes) -> Records:
    """The records of a file.

    Raises
    ------
    UnreadableFile
        With every entry that is wrong.
    """
    if len(content) > LARGEST_RECORDS_BYTES:
        raise _refused("too_large", "This file is larger than any boat's records.", "8 MB or less")
    try:
        document = json.loads(content.decode("utf-8-sig"), object_pairs_hook=said_once)
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError):
        raise _refused("not_json", "This is no JSON file.", "a records file, as it was saved here") from None
    if not isinstance(document, dict) or document.get("schema_name") != "parhelion.records":
        raise _refused(
            "not_records", "These are no records.", "a file whose schema_name is parhelion.records"
        )
    try:
        return Records.model_validate(document)
    except ValidationError as error:
        raise UnreadableFile(problems_of(error)) from None


def written_records(records: Records) -> bytes:
    """The records as the bytes of a file that `read_records` takes."""
    return records.model_dump_json(indent=1).encode()
