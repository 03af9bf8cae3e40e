"""What every piece of the document is made of."""

from __future__ import annotations

from datetime import time as Time
from typing import Annotated, LiteralString

from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from pydantic_core import PydanticCustomError

Id = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9_-]+$")]
Name = Annotated[str, Field(min_length=1, max_length=80)]
Clock = Annotated[Time, AfterValidator(lambda clock: clock.replace(tzinfo=None))]  # of the place, always
Share = Annotated[float, Field(ge=0, le=1)]


class Part(BaseModel):
    """A piece of the document; frozen, so that a changed boat is a new boat."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def __hash__(self) -> int:
        """By the entries that are there: of a slice of a piece as well (`reads`)."""
        return hash(tuple(vars(self).values()))


class Point(Part):
    """A point of the boat frame [m]."""

    x_m: float = Field(ge=-100, le=100, title="To starboard")
    y_m: float = Field(ge=-100, le=100, title="Forward")
    z_m: float = Field(ge=-10, le=100, title="Above the waterline")


def out_of_reach(message: LiteralString, field: str, accepted: str, **context: object) -> PydanticCustomError:
    """An error of what cannot be, beside the field it is about; `context` fills the message's slots."""
    return PydanticCustomError("out_of_reach", message, {"accepted": accepted, "field": field, **context})
