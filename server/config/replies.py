"""One shape for every refusal, documented wherever it may come."""

from __future__ import annotations

from typing import Any

from parhelion.errors import Problem
from pydantic import BaseModel


class Errors(BaseModel):
    """Every 4xx reply."""

    errors: list[Problem]


# What may refuse any request: another site's page, a body that is too large, or not what is asked for.
REFUSALS: dict[int, type[Errors]] = {400: Errors, 403: Errors, 413: Errors, 422: Errors}
FOUND: dict[int, type[Errors]] = {**REFUSALS, 404: Errors}


def or_refused(answer: Any, *, named: bool = False) -> dict[int, Any]:
    """The replies of an endpoint; one that names something stored may also not find it."""
    return {200: answer, **(FOUND if named else REFUSALS)}


def of_type(media_type: str, schema: dict[str, Any] | None = None) -> dict[str, Any]:
    """The documentation of a reply that is a file."""
    binary = {"type": "string", "format": "binary"}
    content = {media_type.split(";", maxsplit=1)[0]: {"schema": schema or binary}}
    return {"responses": {200: {"description": "OK", "content": content}}}
