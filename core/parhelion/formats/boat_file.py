"""The boat design as an open JSON file: read with its reason where it cannot be, written, described.

Files of older schema versions are brought up to date on reading, one step a version; the frozen files under
core/tests/references/ hold one of each.
"""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from parhelion.design import SCHEMA_NAME, SCHEMA_VERSION, BoatDesign
from parhelion.errors import InvalidDesign, Problem, UnreadableFile, problems_of
from parhelion.formats.migrations import MIGRATIONS

LARGEST_FILE_BYTES = 1_000_000  # a design is some 5 kB


def said_once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    """A JSON object, refused where it says a name twice: which of the two was meant cannot be known."""
    found = dict(pairs)
    if len(found) != len(pairs):
        twice = next(name for index, (name, _) in enumerate(pairs) if name in dict(pairs[:index]))
        raise _refuse("said_twice", f"The file says “{twice[:40]}” twice in one place.", "every name once")
    return found


def _refuse(code: str, message: str, accepted: str, field: str = "", value: object = None) -> UnreadableFile:
    return UnreadableFile([Problem(code=code, message=message, field=field, value=value, accepted=accepted)])


def read_boat(content: bytes | str, size_bytes: int | None = None) -> BoatDesign:
    """A design from the content of a file.

    Parameters
    ----------
    content : bytes or str
        UTF-8 JSON of at most 1 MB.
    size_bytes : int, optional
        Size of the whole file, where only its beginning is given.

    Returns
    -------
    BoatDesign

    Raises
    ------
    UnreadableFile
        Not JSON, no boat design, or newer than this program; with the place in the file.
    InvalidDesign
        A design whose values break the schema; every problem with its field.
    """
    size = size_bytes or len(content)
    if size > LARGEST_FILE_BYTES:
        raise _refuse(
            "too_large",
            f"This file has {size / 1e6:.1f} MB; no boat design is that large.",
            "a design file of 1 MB or less",
        )
    try:
        text = content.decode("utf-8-sig") if isinstance(content, bytes) else content
        document = json.loads(text, object_pairs_hook=said_once)
    except UnicodeDecodeError as error:
        raise _refuse(
            "not_text", f"Byte {error.start} is not UTF-8 text.", "a JSON file saved by Parhelion"
        ) from None
    except (ValueError, RecursionError) as error:
        place = (
            f"line {error.lineno}, column {error.colno}"
            if isinstance(error, json.JSONDecodeError)
            else "its nesting or a number"
        )
        raise _refuse(
            "not_json", f"The file is damaged or no JSON: it breaks at {place}.", "a JSON boat design"
        ) from None
    return design_from(document)


def design_from(document: object) -> BoatDesign:
    """A design from parsed JSON, migrated where it is of an older version; raises as `read_boat`."""
    if not isinstance(document, dict) or document.get("schema_name") != SCHEMA_NAME:
        raise _refuse(
            "not_a_boat",
            "This JSON is not a boat design.",
            f'an object whose schema_name is "{SCHEMA_NAME}"',
            "/schema_name",
        )
    version = document.get("schema_version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise _refuse(
            "no_version",
            "This design does not say its version.",
            f"schema_version from 1 to {SCHEMA_VERSION}",
            "/schema_version",
            version,
        )
    if version > SCHEMA_VERSION:
        raise _refuse(
            "newer_version",
            f"This design is of version {version}, newer than this program knows.",
            f"schema_version up to {SCHEMA_VERSION}; or a newer Parhelion",
            "/schema_version",
            version,
        )
    for old in range(version, SCHEMA_VERSION):
        document = MIGRATIONS[old](document)
    try:
        return BoatDesign.model_validate(document)
    except ValidationError as error:
        raise InvalidDesign(problems_of(error)) from None


def written(design: BoatDesign) -> str:
    """The design as the text of a file."""
    return json.dumps(design.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"


def json_schema() -> dict[str, Any]:
    """The published JSON Schema of the file."""
    schema = BoatDesign.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema}
