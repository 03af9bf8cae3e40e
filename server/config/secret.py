"""The key this machine signs with: made at the first start, readable by its owner alone."""

from __future__ import annotations

import secrets
from pathlib import Path


def secret_kept_in(folder: Path) -> str:
    """The secret in this folder, made where there is none; two that start at once share the first one's."""
    kept = folder / "secret"
    try:
        kept.touch(mode=0o600, exist_ok=False)
        kept.write_text(secrets.token_urlsafe(48), encoding="ascii")
    except FileExistsError:
        pass
    return kept.read_text(encoding="ascii") or "being made"
