"""Whether a file is still the same one."""

from hashlib import blake2b
from pathlib import Path
from typing import Self

from cadrage.errors import MissingSource
from cadrage.files import files_of, pieces_of
from cadrage.values import Value

DIGEST_BYTES = 16


class ClipIdentity(Value):
    """Which bytes a file, or a folder of stills, has. Two that are equal have the same.

    Attributes:
        digest: BLAKE2b of all bytes (RFC 7693, 128 bits) in hexadecimal digits; "" where nobody has read them all.
        fingerprint: number of files, bytes in all, and the newest time of change in nanoseconds: cheap to ask for.
    """

    digest: str = ""
    fingerprint: str = ""

    @classmethod
    def of(cls, path: Path, known: "ClipIdentity | None" = None) -> Self:
        """That of a file as it is now, without reading it.

        Args:
            path: the file.
            known: what it was; its digest is believed for as long as the fingerprint stands, or the file is not there.

        Raises:
            MissingSource: it is not there, and nothing is known of it.
        """
        try:
            now = _fingerprint(path)
        except OSError as error:
            if known is not None and known.digest:
                return cls(digest=known.digest, fingerprint=known.fingerprint)
            raise MissingSource(
                "The file is not there.", remedy="Put it back, or choose another.", clip=path
            ) from error
        same = known is not None and known.fingerprint == now
        return cls(digest=known.digest if known is not None and same else "", fingerprint=now)

    @classmethod
    def read(cls, path: Path) -> Self:
        """That of a file whose bytes are all read now.

        Raises:
            MissingSource: it is not there.
        """
        before = cls.of(path)  # a file that changes while it is read has changed since
        digest = blake2b(digest_size=DIGEST_BYTES)
        for piece in pieces_of(path):
            digest.update(piece)
        return cls(digest=digest.hexdigest(), fingerprint=before.fingerprint)

    @property
    def key(self) -> str:
        """What stands for the bytes in keys: the digest, wherever it lies; else the fingerprint."""
        return self.digest or self.fingerprint

    def stands(self, path: Path) -> bool:
        """Whether a file is there and is what this says."""
        try:
            return _fingerprint(path) == self.fingerprint
        except OSError:
            return False


def _fingerprint(path: Path) -> str:
    states = [file.stat() for file in files_of(path)]
    newest = max((state.st_mtime_ns for state in states), default=0)
    return f"{len(states)} {sum(state.st_size for state in states)} {newest}"
