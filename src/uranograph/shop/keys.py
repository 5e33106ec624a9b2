"""The shop's signing key, stored outside the database so that the database alone cannot forge signatures."""

import os
from pathlib import Path

from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives import serialization
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey


class NoKey(RuntimeError):
    """The key cannot be read or made: one sentence that says why."""


class ShopKey:
    """The Ed25519 key of a shop, in a file of its own beside the shop's file, readable by its owner alone.

    It is made the first time that something is signed, so that a shop which only looks needs none.

    Parameters
    ----------
    path
        The shop's file; the key is in the file of that name with `.key` behind it.

    References
    ----------
    RFC 8032, Edwards-curve digital signature algorithm.
    """

    def __init__(self, path: Path) -> None:
        self.file = Path(f"{path}.key")
        self._key: Ed25519PrivateKey | None = None

    @property
    def id(self) -> str:
        """The public half, 64 hexadecimal digits; empty where no key was made yet."""
        key = self._read()
        return _id_of(key) if key else ""

    def seal(self, data: bytes) -> tuple[str, str]:
        """Sign some bytes.

        Returns
        -------
        tuple
            The signature, 128 hexadecimal digits, and the key's `id`.

        Raises
        ------
        NoKey
            When the key cannot be read or made.
        """
        key = self._read() or self._made()
        return key.sign(data).hex(), _id_of(key)

    def back_up(self, file: Path, pass_phrase: str) -> None:
        """Write the key under a pass phrase into a file that is not there yet, readable by its owner alone.

        Raises
        ------
        NoKey
            When there is no key, or there is a file already.
        """
        key = self._read()
        if key is None:
            raise NoKey("This shop has signed nothing yet: it has no key.")
        _write(file, key, serialization.BestAvailableEncryption(pass_phrase.encode()))

    def opened(self, file: Path, pass_phrase: str) -> Ed25519PrivateKey:
        """The key of a backup.

        Raises
        ------
        NoKey
            When the pass phrase does not open it, or it is no key of a shop.
        """
        try:
            key = serialization.load_pem_private_key(file.read_bytes(), pass_phrase.encode())
        except (ValueError, TypeError) as error:
            raise NoKey(f"The pass phrase does not open {file}.") from error
        if not isinstance(key, Ed25519PrivateKey):
            raise NoKey(f"{file} is no key of a shop.")
        return key

    def restore(self, key: Ed25519PrivateKey, at: str) -> None:
        """Put a backup's key in this one's place; another that is there is kept beside it, `at` in its name.

        Raises
        ------
        NoKey
            When it cannot be written.
        """
        if self.file.exists() and self.id == _id_of(key):
            return
        if self.file.exists():
            self.file.rename(f"{self.file}.before-restore-{at}")
        _write(self.file, key, serialization.NoEncryption())
        self._key = key

    def _read(self) -> Ed25519PrivateKey | None:
        if self._key is None and self.file.exists():
            try:
                key = serialization.load_pem_private_key(self.file.read_bytes(), None)
            except (OSError, ValueError, TypeError) as error:
                raise NoKey(f"The shop's key {self.file} cannot be read.") from error
            if not isinstance(key, Ed25519PrivateKey):
                raise NoKey(f"{self.file} is no key of a shop.")
            self._key = key
        return self._key

    def _made(self) -> Ed25519PrivateKey:
        key = Ed25519PrivateKey.generate()
        try:
            _write(self.file, key, serialization.NoEncryption())
        except NoKey:
            # Another process was quicker: its key counts.
            found = self._read()
            if found is None:
                raise
            return found
        self._key = key
        return key


def _write(file: Path, key: Ed25519PrivateKey, under: serialization.KeySerializationEncryption) -> None:
    pem = key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, under)
    try:
        made = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(made, "wb") as opened:
            opened.write(pem)
            opened.flush()
            os.fsync(opened.fileno())
    except FileExistsError as error:
        raise NoKey(f"{file} is there already: name another file, or take it away first.") from error
    except OSError as error:
        raise NoKey(f"The key {file} cannot be written: {error.strerror or error}.") from error


def _id_of(key: Ed25519PrivateKey) -> str:
    return key.public_key().public_bytes_raw().hex()


def sealed_by(key_id: str, seal: str, data: bytes) -> bool:
    """Whether a signature over some bytes was made with the key of this id.

    Examples
    --------
    >>> sealed_by("00" * 32, "00" * 64, b"anything"), sealed_by("no key", "", b"")
    (False, False)
    """
    try:
        Ed25519PublicKey.from_public_bytes(bytes.fromhex(key_id)).verify(bytes.fromhex(seal), data)
    except (InvalidSignature, ValueError):
        return False
    return True
