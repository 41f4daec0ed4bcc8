"""The keys of a site: a file of their own beside the database, readable by its owner alone.

Whoever can write the database only, or has a copy of it, can make neither a session nor an entry of the ledger.
"""

from __future__ import annotations

import hmac
import json
import os
import secrets
from base64 import urlsafe_b64encode
from dataclasses import asdict, dataclass
from functools import lru_cache
from hashlib import sha256
from pathlib import Path

from cryptography.fernet import Fernet, InvalidToken

from spinel.core.errors import NotKept


@dataclass(frozen=True)
class Keys:
    """``name``: says which key an entry was made with. ``session`` signs cookies, ``ledger`` entries: all after the
    ``first`` so many, which there were when the keys were made."""

    name: str
    session: str
    ledger: str
    first: int

    def mac(self, row_hash: str) -> str:
        """Which key, and HMAC-SHA-256 of an entry's hash with it."""
        made = hmac.new(bytes.fromhex(self.ledger), row_hash.encode(), sha256)
        return f"{self.name}:{made.hexdigest()}"


def _cipher(beside: Path) -> Fernet:
    known = of(beside)
    if known is None:
        raise NotKept(f"{file(beside)} is missing")
    # one secret for one purpose: never the ledger's own key
    made = hmac.new(bytes.fromhex(known.ledger), b"secrets of one-time codes", sha256).digest()
    return Fernet(urlsafe_b64encode(made))


def encrypted(beside: Path, secret: str) -> str:
    """A secret as the database may hold it: whoever has the database alone cannot read it."""
    return _cipher(beside).encrypt(secret.encode()).decode()


def decrypted(beside: Path, kept: str) -> str:
    """The inverse; NotKept where it was encrypted with other keys than there are."""
    try:
        return _cipher(beside).decrypt(kept.encode()).decode()
    except InvalidToken as error:
        raise NotKept("a secret was kept with other keys") from error


def file(beside: str | Path) -> Path:
    return Path(f"{beside}.keys")


def make(beside: str | Path, first: int) -> Keys:
    """New keys, where there are none; FileExistsError where there are."""
    made = Keys(secrets.token_hex(4), secrets.token_hex(32), secrets.token_hex(32), first)
    _write(file(beside), json.dumps(asdict(made)))
    return made


def copy(beside: str | Path, to: str | Path) -> None:
    """The keys of one database for a copy of it; FileExistsError where that has some."""
    _write(file(to), file(beside).read_text())


def _write(path: Path, text: str) -> None:
    half = path.with_name(f"{path.name}.{secrets.token_hex(4)}")
    with os.fdopen(os.open(half, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), "w") as out:
        out.write(text)
        out.flush()
        os.fsync(out.fileno())
    try:
        # whole or not there: another process may look at any moment
        os.link(half, path)
    finally:
        half.unlink()


def of(beside: str | Path) -> Keys | None:
    """The keys of a database, or None where there is no such file. ValueError for one that holds none."""
    path = file(beside)
    try:
        stat = path.stat()
    except FileNotFoundError:
        return None
    return _read(path, stat.st_ino, stat.st_mtime_ns)


@lru_cache(maxsize=16)
def _read(path: Path, number: int, changed: int) -> Keys:
    try:
        return Keys(**json.loads(path.read_text()))
    except (TypeError, ValueError) as error:
        raise ValueError(f"{path} holds no keys") from error
