"""The reasoning that goes with every finding about the demand curve."""

from __future__ import annotations

from parhelion.answers.reasons import HULL_SOURCE, MODEL_REASONS, hull_facts
from parhelion.day.outlook import Outlook
from parhelion.hulltypes import TYPICAL
from parhelion.quantities import Fact, Why, words


def hull_why(outlook: Outlook, method: str, *facts: Fact, doc: str = "demand") -> Why:
    """A reasoning about the demand curve, with what it was computed from."""
    return Why(method=method, source=HULL_SOURCE, inputs=[*facts, *hull_facts(outlook)], doc=doc)


def model_fact(outlook: Outlook) -> Fact:
    """Why the type's model was chosen."""
    reason = MODEL_REASONS[TYPICAL[outlook.design.hull.type].model]
    return Fact(label="Model chosen for", value=words(reason))
