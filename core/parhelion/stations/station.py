"""What a station registers: its picture, findings, studies, papers, readers, lists, long work and verbs.

Whatever is asked beside the design, and what is answered, stands in the signature of the function that
answers; the server, the page's types and the terminal take it from there.
"""

from __future__ import annotations

import inspect
from argparse import ArgumentParser, Namespace
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any, TextIO, get_type_hints

from pydantic import BaseModel

from parhelion.balance.outlook import OUTLOOK_READS, Outlook, outlook_of
from parhelion.design import BoatDesign
from parhelion.design.logbook import NO_LOGBOOK, Logbook
from parhelion.design.reads import Reads
from parhelion.design.records import NO_RECORDS, Records
from parhelion.errors import finite
from parhelion.finding import Finding
from parhelion.stations.usual import UsualOf


@dataclass(frozen=True)
class Signature:
    """What a function is asked beside its subject, and what it answers."""

    subject: type | None  # BoatDesign, Outlook; None for a question about neither
    asked: Mapping[
        str, tuple[Any, Any]
    ]  # by name: type, with its bounds, and default (... where there is none)
    answers: Any


def signature_of(function: Callable[..., Any]) -> Signature:
    """The signature of a function, with its types."""
    hints = get_type_hints(function, include_extras=True)
    parameters = list(inspect.signature(function).parameters.values())
    subject = None
    if parameters and hints[parameters[0].name] in (BoatDesign, Outlook):
        subject = hints[parameters.pop(0).name]
    asked = {
        p.name: (hints[p.name], ... if p.default is inspect.Parameter.empty else p.default)
        for p in parameters
        if p.name != "report"
    }
    return Signature(subject, asked, hints["return"])


@dataclass(frozen=True)
class Question:
    """Something that is asked under a name of the station's own."""

    name: str  # the last part of its address
    answer: Callable[..., Any]

    @cached_property
    def signature(self) -> Signature:
        return signature_of(self.answer)

    def about(self, design: BoatDesign | None, **asked: Any) -> Any:
        """The answer; of a gathered design it is computed once for the same question.

        Raises
        ------
        NoAnswer
            Where a number of it came out endless, or as none.
        """
        with finite(self.name):
            return self._about(design, **asked)

    def _about(self, design: BoatDesign | None, **asked: Any) -> Any:
        subject = self.signature.subject
        if subject is None:
            return self.answer(**asked)
        assert design is not None
        if subject is BoatDesign:
            return self.answer(design, **asked)
        outlook = outlook_of(design)
        key = (
            self.answer,
            *(asked.get(name, default) for name, (_, default) in self.signature.asked.items()),
        )
        return outlook.remember(key, lambda: self.answer(outlook, **asked))


@dataclass(frozen=True)
class Study(Question):
    """Something computed for one station alone.

    One at rest takes longer than a glance: it is asked for once a person pauses.
    """

    at_rest: bool = False


@dataclass(frozen=True)
class Paper(Question):
    """A file made of a design; `packed` is its place in the print pack, where it has one."""

    media_type: str = "text/csv; charset=utf-8"
    packed: int | None = None
    title: str = ""


@dataclass(frozen=True)
class Reader(Question):
    """Reads what a person brings: a table, a file's text."""


@dataclass(frozen=True)
class Listing(Question):
    """A list to choose from."""


@dataclass(frozen=True)
class Work(Question):
    """Long work on one design, or on several that are named; it reports how far it is.

    What it reads of a design makes one question of two designs that differ in nothing else.
    """

    reads: Reads = OUTLOOK_READS
    several: bool = False


@dataclass(frozen=True)
class Verb:
    """A word of the terminal: the same answers in plain text or JSON.

    Its file is a boat design, or a case of numbers alone of the kind that it names, or a table.
    """

    name: str
    run: Callable[[Any, Namespace, TextIO], None]
    arguments: Callable[[ArgumentParser], None] | None = None
    case: type[BaseModel] | None = None
    table: str | None = None  # what the table is

    @property
    def of_boat(self) -> bool:
        return self.case is None and self.table is None

    @property
    def file(self) -> str:
        """What its file is, in words."""
        if self.table is not None:
            return self.table
        return "a boat design, JSON" if self.case is None else "a case, JSON"


@dataclass(frozen=True)
class Beside:
    """What stands beside a design: records, the logbook, and which outing is open.

    Whoever asks for one of them by its name is given it.
    """

    records: Records = NO_RECORDS
    logbook: Logbook = NO_LOGBOOK
    outing: str = ""

    def asked_by(self, names: Iterable[str]) -> dict[str, Any]:
        """Those of them that are asked for."""
        return {name: getattr(self, name) for name in ("records", "logbook", "outing") if name in names}


ALONE = Beside()


def always(design: BoatDesign) -> bool:
    """Findings that take longer than a glance for every boat."""
    return True


@dataclass(frozen=True)
class Station:
    """One station of the work. Its picture and findings stand among its studies."""

    name: str
    title: str
    findings: Callable[..., list[Finding]]  # of an outlook or a design, and of what stands beside it
    studies: tuple[Study, ...]
    papers: tuple[Paper, ...] = ()
    readers: tuple[Reader, ...] = ()
    lists: tuple[Listing, ...] = ()
    works: tuple[Work, ...] = ()
    verbs: tuple[Verb, ...] = ()
    usual: Callable[[Outlook], UsualOf] = lambda outlook: {}  # what empty entries of its own mean
    told_at_rest: Callable[[BoatDesign], bool] = lambda design: False  # where that takes longer than a glance
    warnings: Callable[[BoatDesign], list[Finding]] | None = None  # alone, where the others take longer

    def study(self, name: str) -> Study | None:
        return next((study for study in self.studies if study.name == name), None)

    def told(self, design: BoatDesign, beside: Beside = ALONE) -> list[Finding]:
        """The findings of a design and what was noted and read of the boat, found once."""
        return self.findings_of(design, beside)

    def warned(self, design: BoatDesign, beside: Beside = ALONE) -> list[Finding]:
        """The warnings among the findings, asked without the rest where that spares time."""
        found = self.told(design, beside) if self.warnings is None else self.warnings(design)
        return [finding for finding in found if finding.level == "warn"]

    @cached_property
    def findings_of(self) -> Callable[[BoatDesign, Beside], list[Finding]]:
        """The findings of a design; those of its outlook are found once for all who ask about the same."""
        made: Any = self.findings
        signature = signature_of(made)

        if signature.subject is BoatDesign:
            return lambda design, beside: list(made(design, **beside.asked_by(signature.asked)))

        def of_outlook(design: BoatDesign, beside: Beside) -> list[Finding]:
            outlook, asked = outlook_of(design), beside.asked_by(signature.asked)
            told: list[Finding] = outlook.remember((made, *asked.values()), lambda: made(outlook, **asked))
            return told

        return of_outlook
