"""A case of numbers alone, as the terminal takes one: JSON, checked against what the case asks for."""

from __future__ import annotations

import json
from typing import TypeVar

from pydantic import BaseModel, ValidationError

from parhelion.errors import Problem, UnreadableFile, problems_of
from parhelion.formats.boat_file import said_once

Case = TypeVar("Case", bound=BaseModel)
LARGEST_CASE_BYTES = 4_000_000


def read_case(content: bytes, model: type[Case]) -> Case:
    """The case of a file.

    Raises
    ------
    UnreadableFile
        Where it is no JSON, or an entry of it is wrong or missing.
    """
    if len(content) > LARGEST_CASE_BYTES:
        raise UnreadableFile(
            [Problem(code="too_large", message="This file is too large.", accepted="4 MB or less")]
        )
    try:
        document = json.loads(content.decode("utf-8-sig"), object_pairs_hook=said_once)
    except (ValueError, RecursionError):
        raise UnreadableFile(
            [Problem(code="not_json", message="This is no JSON.", accepted="a case, JSON")]
        ) from None
    try:
        return model.model_validate(document)
    except ValidationError as error:
        raise UnreadableFile(problems_of(error)) from None
