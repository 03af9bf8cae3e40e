"""The records beside a design as one open JSON file."""

from __future__ import annotations

from parhelion.design.records import Records
from parhelion.formats.beside_file import MB, read_beside

LARGEST_RECORDS_BYTES = 8 * MB


def read_records(content: bytes) -> Records:
    """The records of a file; raises UnreadableFile with every entry that is wrong."""
    return read_beside(content, Records, "records", LARGEST_RECORDS_BYTES)


def written_records(records: Records) -> bytes:
    """The records as the bytes of a file that `read_records` takes."""
    return records.model_dump_json(indent=1).encode()
