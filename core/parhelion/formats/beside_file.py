"""What is kept beside a design as one open JSON file: records, the logbook."""

from __future__ import annotations

import json
from typing import TypeVar

from pydantic import BaseModel, ValidationError

from parhelion.errors import Problem, UnreadableFile, problems_of
from parhelion.formats.boat_file import said_once

Document = TypeVar("Document", bound=BaseModel)
MB = 1_000_000


def read_beside(content: bytes, model: type[Document], what: str, largest_bytes: int) -> Document:
    """The document of a file.

    Parameters
    ----------
    content : bytes
    model : type
        Its `schema_name` has one value, which the file must name.
    what : str
        What the file is called in words: "records", "logbook".
    largest_bytes : int

    Raises
    ------
    UnreadableFile
        With every entry that is wrong.
    """
    name = model.model_fields["schema_name"].default
    if len(content) > largest_bytes:
        raise _refused(
            "too_large", f"This file is larger than any {what} file.", f"{largest_bytes // MB} MB or less"
        )
    try:
        document = json.loads(content.decode("utf-8-sig"), object_pairs_hook=said_once)
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError):
        raise _refused("not_json", "This is no JSON file.", f"a {what} file, as it was saved here") from None
    if not isinstance(document, dict) or document.get("schema_name") != name:
        raise _refused(f"not_{what}", f"This is no {what} file.", f"a file whose schema_name is {name}")
    try:
        return model.model_validate(document)
    except ValidationError as error:
        raise UnreadableFile(problems_of(error)) from None


def _refused(code: str, message: str, accepted: str) -> UnreadableFile:
    return UnreadableFile([Problem(code=code, message=message, accepted=accepted)])
