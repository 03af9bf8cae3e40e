"""How the compiled kernels are made and kept.

The compiler's own cache looks only at the file a kernel stands in, not at the kernels it calls. So the cache
has one folder for each state of all kernel sources: after any change they are all compiled anew.
"""

from __future__ import annotations

import hashlib
import os
import tempfile
from pathlib import Path

import numba

PACKAGE = Path(__file__).parents[1]


def _sources() -> list[bytes]:
    """The text of every file that compiles something."""
    texts = (path.read_bytes() for path in sorted(PACKAGE.rglob("*.py")))
    return [text for text in texts if b"@njit" in text or b"@vectorize" in text]


def _home() -> Path:
    """Beside the package; where that cannot be written the person's cache, or else the temporary files."""
    cache = Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache")
    for place in (PACKAGE / "__pycache__", cache / "parhelion"):
        try:
            place.mkdir(parents=True, exist_ok=True)
        except OSError:
            continue
        if os.access(place, os.W_OK):
            return place
    return Path(tempfile.gettempdir()) / "parhelion"


_state = hashlib.sha256(b"".join(_sources())).hexdigest()[:12]
numba.config.CACHE_DIR = str(_home() / f"kernels-{_state}")

OPTIONS = {"cache": True, "nogil": True, "error_model": "numpy"}
WHOLE = {"cache": True, "nopython": True}  # of functions that go over whole arrays, one number at a time
