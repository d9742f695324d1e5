"""Reading with a bound and writing all or nothing, with errors as sentences."""

from __future__ import annotations

import contextlib
import errno
import os
import tempfile
from pathlib import Path

from pennello.errors import FileProblemError

_REMEDIES = {
    errno.ENOENT: "there is no such file or folder; check the name.",
    errno.EISDIR: "this is a folder; name a file in it.",
    errno.ENOTDIR: "part of this path is a file, not a folder; check the name.",
    errno.EACCES: "there is no permission; choose another place or change the file's permissions.",
    errno.EPERM: "there is no permission; choose another place or change the file's permissions.",
    errno.EROFS: "this disk cannot be written to; choose another place.",
    errno.ENOSPC: "the disk is full; free some space or choose another place.",
    errno.EDQUOT: "your share of the disk is full; free some space or choose another place.",
    errno.EFBIG: "the disk is full or the file too large; choose another place.",
    errno.ENAMETOOLONG: "the name is too long; choose a shorter one.",
}


def _problem(path: Path, error: OSError) -> FileProblemError:
    reason = error.strerror or type(error).__name__
    return FileProblemError(path, _REMEDIES.get(error.errno or 0, f"the system says '{reason}'; try another place."))


def read_bytes(path: Path, most: int) -> bytes:
    """Return a file's bytes.

    Raises
    ------
    FileProblemError
        If it cannot be read or is larger than `most` bytes.
    """
    try:
        if path.exists() and not (path.is_file() or path.is_dir()):
            raise FileProblemError(path, "this is not an ordinary file; name a file.")
        with path.open("rb") as file:
            data = file.read(most + 1)
    except OSError as error:
        raise _problem(path, error) from error
    except ValueError as error:  # a NUL in the name
        raise FileProblemError(path, "this is not a file name.") from error
    if len(data) > most:
        raise FileProblemError(path, f"the file is larger than {most // 1_000_000} MB; it is no plan of Pennello's.")
    return data


def write_bytes(data: bytes, path: Path) -> None:
    """Write a file through a temporary one beside it, so that a full disk or a kill leaves the old one whole.

    Raises
    ------
    FileProblemError
        If it cannot be written; the file that was there is untouched.
    """
    try:
        target = path.resolve() if path.is_symlink() else path
        if target.is_dir():
            raise IsADirectoryError(errno.EISDIR, os.strerror(errno.EISDIR))
        if target.exists() and not target.is_file():
            raise FileProblemError(path, "this is not an ordinary file; name a file.")
        handle, name = tempfile.mkstemp(prefix=f".{target.name[:80]}.", suffix=".tmp", dir=target.parent)
    except OSError as error:
        raise _problem(path, error) from error
    except ValueError as error:  # a NUL in the name
        raise FileProblemError(path, "this is not a file name.") from error
    temporary = Path(name)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        temporary.chmod(target.stat().st_mode & 0o777 if target.exists() else 0o644)
        if target.exists() and not os.access(target, os.W_OK):
            raise PermissionError(errno.EACCES, os.strerror(errno.EACCES))
        temporary.replace(target)
    except OSError as error:
        raise _problem(path, error) from error
    finally:
        with contextlib.suppress(OSError):
            temporary.unlink(missing_ok=True)
