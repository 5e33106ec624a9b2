"""The shop's own key: signatures that are made with it can be made by nobody who has only the shop's file."""

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

    def exported(self, pass_phrase: str) -> bytes:
        """The key as PEM under a pass phrase, for a backup; empty where there is none."""
        key = self._read()
        if key is None:
            return b""
        under = serialization.BestAvailableEncryption(pass_phrase.encode())
        return key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, under)

    def take_back(self, pem: bytes, pass_phrase: str) -> None:
        """Put a key from a backup in this one's place.

        Raises
        ------
        NoKey
            When the pass phrase does not open it, or another key is here already.
        """
        try:
            key = serialization.load_pem_private_key(pem, pass_phrase.encode())
        except (ValueError, TypeError) as error:
            raise NoKey("The pass phrase does not open the key of this backup.") from error
        if not isinstance(key, Ed25519PrivateKey):
            raise NoKey("The key of this backup is no key of a shop.")
        if self.id not in ("", _id_of(key)):
            raise NoKey(f"{self.file} is another key: take it away first.")
        if not self.id:
            self._write(key)

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
            self._write(key)
        except FileExistsError:
            # Another process was quicker: its key counts.
            found = self._read()
            assert found is not None
            return found
        return key

    def _write(self, key: Ed25519PrivateKey) -> None:
        pem = key.private_bytes(
            serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
        )
        try:
            file = os.open(self.file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
            with os.fdopen(file, "wb") as opened:
                opened.write(pem)
                opened.flush()
                os.fsync(opened.fileno())
        except FileExistsError:
            raise
        except OSError as error:
            raise NoKey(f"The shop's key {self.file} cannot be made: {error.strerror or error}.") from error
        self._key = key


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
