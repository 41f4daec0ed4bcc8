"""A backup in one encrypted file: the database, its keys and the files that it refers to.

The key is whatever a file of the site's own holds, 16 bytes at least; what encrypts is derived from it with scrypt and
a salt of each backup. Without that file nobody reads the backup again: it is kept elsewhere, and printed.
"""

from __future__ import annotations

import io
import os
import secrets
import tarfile
from base64 import urlsafe_b64encode
from hashlib import scrypt
from pathlib import Path

from cryptography.fernet import Fernet, InvalidToken

from spinel.core.errors import InputError, Refusal
from spinel.core.said import Sayable, say

_MARK, _SALT, _LEAST_KEY = b"spinel backup 1\n", 16, 16
#: Under this name the database lies within.
WITHIN = "site.sqlite3"


def is_sealed(path: Path) -> bool:
    with path.open("rb") as file:
        return file.read(len(_MARK)) == _MARK


def _cipher(key: Path, salt: bytes) -> Fernet:
    try:
        secret = key.read_bytes().strip()
    except OSError as error:
        raise InputError("key", str(key), say("backup-a-file-that-can-be-read", why=str(error.strerror))) from error
    if len(secret) < _LEAST_KEY:
        raise InputError("key", str(key), say("backup-a-key-of-bytes-at-least", least=_LEAST_KEY))
    return Fernet(urlsafe_b64encode(scrypt(secret, salt=salt, n=2**15, r=8, p=1, maxmem=2**26, dklen=32)))


def seal(folder: Path, to: Path, key: Path) -> None:
    """All that lies in a folder into one new file, whole or not there."""
    salt = secrets.token_bytes(_SALT)
    cipher, out = _cipher(key, salt), io.BytesIO()
    with tarfile.open(fileobj=out, mode="w") as archive:
        for path in sorted(folder.iterdir()):
            archive.add(path, path.name)
    half = to.with_name(f"{to.name}.half")
    try:
        with os.fdopen(os.open(half, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), "wb") as file:
            file.write(_MARK + salt + cipher.encrypt(out.getvalue()))
            file.flush()
            os.fsync(file.fileno())
        half.rename(to)
    finally:
        half.unlink(missing_ok=True)


def unseal(sealed: Path, into: Path, key: Path | None) -> Path:
    """The database of a sealed backup, in a folder of one's own; Refusal without its key, or with another."""
    if key is None:
        raise _refused(say("backup-is-encrypted", path=str(sealed)))
    raw = sealed.read_bytes()[len(_MARK) :]
    try:
        plain = _cipher(key, raw[:_SALT]).decrypt(raw[_SALT:])
    except InvalidToken:
        raise _refused(say("backup-another-key-or-damaged", path=str(sealed))) from None
    with tarfile.open(fileobj=io.BytesIO(plain)) as archive:
        archive.extractall(into, filter="data")
    return into / WITHIN


def _refused(why: Sayable) -> Refusal:
    return Refusal(say("backup-with-its-key"), why, say("backup-give-its-key"))
