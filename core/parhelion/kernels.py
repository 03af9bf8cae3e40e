"""How the compiled kernels are made and kept.

The compiler's own cache looks only at the file a kernel stands in, not at the kernels it calls. So the cache
has one folder for each state of all kernel sources: after any change they are all compiled anew.
"""

from __future__ import annotations

import hashlib
from pathlib import Path

import numba

PACKAGE = Path(__file__).parent
SOURCES = (
    "array/casting.py", "array/mismatch.py", "array/strung.py", "sun/year.py", "bank/store.py", "day/flow.py",
    "day/steady.py", "day/chain.py", "day/dock.py", "day/pace.py",
)  # fmt: skip

_state = hashlib.sha256(b"".join((PACKAGE / name).read_bytes() for name in SOURCES)).hexdigest()[:12]
numba.config.CACHE_DIR = str(PACKAGE / "__pycache__" / f"kernels-{_state}")

OPTIONS = {"cache": True, "nogil": True, "error_model": "numpy"}
