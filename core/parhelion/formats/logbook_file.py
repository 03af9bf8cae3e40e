"""The logbook beside a design as one open JSON file."""

from __future__ import annotations

from parhelion.design.logbook import Logbook
from parhelion.formats.beside_file import MB, read_beside

LARGEST_LOGBOOK_BYTES = 200 * MB


def read_logbook(content: bytes) -> Logbook:
    """The logbook of a file; raises UnreadableFile with every entry that is wrong."""
    return read_beside(content, Logbook, "logbook", LARGEST_LOGBOOK_BYTES)


def written_logbook(logbook: Logbook) -> bytes:
    """The logbook as the bytes of a file that `read_logbook` takes."""
    return logbook.model_dump_json(indent=1, exclude_none=True).encode()
