"""Reading with a bound and writing all or nothing, with errors as sentences.

A file is written beside its place under a name of its own, made by this process alone, then renamed; file and folder
are flushed to the disk. What a kill leaves lying is swept away later.
"""

from __future__ import annotations

import contextlib
import errno
import os
import secrets
import stat
import time
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from urllib.parse import unquote_to_bytes

from pennello.errors import FileProblemError
from pennello.phrases import phrase

PRIVATE, USUAL = 0o600, 0o666
STRAY_AFTER_S = 120.0
"""A temporary file older than this belongs to nobody any more."""

_TEMPORARY, _ADDRESS = ".tmp", "file://"
_REMEDIES = {
    errno.ENOENT: phrase("there is no such file or folder; check the name."),
    errno.EISDIR: phrase("this is a folder; name a file in it."),
    errno.ENOTDIR: phrase("part of this path is a file, not a folder; check the name."),
    errno.EACCES: phrase("there is no permission; choose another place or change the file's permissions."),
    errno.EPERM: phrase("there is no permission; choose another place or change the file's permissions."),
    errno.EROFS: phrase("this disk cannot be written to; choose another place."),
    errno.ENOSPC: phrase("the disk is full; free some space or choose another place."),
    errno.EDQUOT: phrase("your share of the disk is full; free some space or choose another place."),
    errno.EFBIG: phrase("the disk is full or the file too large; choose another place."),
    errno.ENAMETOOLONG: phrase("the name is too long; choose a shorter one."),
    errno.ELOOP: phrase(
        "this is a link that leads round in a circle, or a link where none may be; choose another place."
    ),
    errno.EBUSY: phrase("another program holds this file; close it there and try again."),
}


def file_problem(path: object, error: OSError | ValueError | RuntimeError) -> FileProblemError:
    """Return what the system says of a file as a sentence with a remedy."""
    if not isinstance(error, OSError):  # a NUL in the name; a circle of links, as pathlib tells it
        if isinstance(error, RuntimeError):
            return FileProblemError(path, _REMEDIES[errno.ELOOP])
        return FileProblemError(path, phrase("this is not a file name."))
    reason = error.strerror or type(error).__name__
    return FileProblemError(
        path, _REMEDIES.get(error.errno or 0, phrase("the system says '{reason}'; try another place.", reason=reason))
    )


def read_bytes(path: Path, most: int) -> bytes:
    """Return a file's bytes.

    Parameters
    ----------
    most
        How many bytes it may have.

    Raises
    ------
    FileProblemError
        If it cannot be read or is larger than that.
    """
    try:
        if path.exists() and not (path.is_file() or path.is_dir()):
            raise FileProblemError(path, phrase("this is not an ordinary file; name a file."))
        with path.open("rb") as file:
            data = file.read(most + 1)
    except (OSError, ValueError, RuntimeError) as error:
        raise file_problem(path, error) from error
    if len(data) > most:
        raise FileProblemError(
            path, phrase("the file is larger than {size}; it is no file of Pennello's.", size=_size(most))
        )
    return data


def _size(count: int) -> str:
    return (
        phrase("{count} MB", count=count // 1_000_000)
        if count >= 1_000_000
        else phrase("{count} kB", count=count // 1000)
    )


@dataclass(frozen=True, slots=True)
class FileMark:
    """How a file was when it was last read or written: its size and the hash of its bytes; (-1, "") for none."""

    size: int = -1
    digest: str = ""


NO_FILE = FileMark()


def mark_of(data: bytes) -> FileMark:
    """Return the mark of bytes."""
    return FileMark(len(data), sha256(data).hexdigest())


def mark_on_disk(path: Path, most: int) -> FileMark:
    """Return the mark of a file as it is now; `NO_FILE` where there is none.

    Raises
    ------
    FileProblemError
        If it is there and cannot be read, or has more than `most` bytes.
    """
    try:
        return mark_of(read_bytes(path, most))
    except FileProblemError as error:
        if isinstance(error.__cause__, FileNotFoundError):
            return NO_FILE
        raise


def exists(path: Path) -> bool:
    """Return whether there is a file; one that may not be looked at counts as none."""
    try:
        return path.exists()
    except (OSError, ValueError, RuntimeError):
        return False


def is_file(path: Path) -> bool:
    """Return whether there is a file, and no folder; one that may not be looked at counts as none."""
    try:
        return path.is_file()
    except (OSError, ValueError, RuntimeError):
        return False


def whole_path(path: Path) -> Path:
    """Return the whole path of a file, links followed; of what can be no file the name as it is."""
    try:
        return path.resolve()
    except (OSError, ValueError, RuntimeError):
        return path


def kept_path(path: Path | None) -> str:
    """Return where a file lies as text that can be kept; "" for none.

    A name may be of any bytes; where they are no UTF-8 this is the file's address, which `path_of` reads.

    >>> kept_path(Path("/tmp/rose.pennello"))
    '/tmp/rose.pennello'
    >>> kept_path(Path(os.fsdecode(bytes("/tmp/caf\u00e9.pennello", "latin-1"))))
    'file:///tmp/caf%E9.pennello'
    """
    if path is None:
        return ""
    try:
        str(path).encode()
    except UnicodeEncodeError:
        return whole_path(path).as_uri()
    return str(path)


def path_of(text: str) -> Path:
    """Return the file that `kept_path` told.

    >>> path_of("file:///tmp/caf%E9.pennello") == Path(os.fsdecode(bytes("/tmp/caf\u00e9.pennello", "latin-1")))
    True
    """
    return Path(os.fsdecode(unquote_to_bytes(text.removeprefix(_ADDRESS)))) if text.startswith(_ADDRESS) else Path(text)


def stem_words(path: Path) -> str:
    """Return a file's name without its ending as text that can be kept; what is no UTF-8 in it stands as U+FFFD.

    >>> stem_words(Path(os.fsdecode(bytes("fair-caf\u00e9.pennello-day", "latin-1")))) == "fair-caf\ufffd"
    True
    """
    return os.fsencode(path.stem).decode("utf-8", "replace")


def make_folder(folder: Path, mode: int = 0o777) -> None:
    """Make a folder, and those that it lies in, where there is none.

    Parameters
    ----------
    mode
        Its permissions, less the umask.

    Raises
    ------
    FileProblemError
        If it cannot be made.
    """
    try:
        folder.mkdir(mode=mode, parents=True, exist_ok=True)
    except FileExistsError as error:
        raise FileProblemError(folder, phrase("there is a file of this name; choose another one.")) from error
    except (OSError, ValueError, RuntimeError) as error:
        raise file_problem(folder, error) from error


def make_private_folder(folder: Path, *, ours: bool = True) -> None:
    """Make a folder that only its owner can look into.

    Parameters
    ----------
    ours
        Whether it is Pennello's own and is tightened where it is there; one that somebody named stays as it is.

    Raises
    ------
    FileProblemError
        If it cannot be made.
    """
    make_folder(folder, 0o700)
    try:
        if ours and stat.S_IMODE(folder.stat().st_mode) & 0o077:
            folder.chmod(0o700)
    except (OSError, ValueError, RuntimeError) as error:
        raise file_problem(folder, error) from error


def tighten(path: Path) -> None:
    """Let only the owner read a file, if it is there and ours."""
    with contextlib.suppress(OSError):
        if path.is_file() and not path.is_symlink() and stat.S_IMODE(path.stat().st_mode) & 0o077:
            path.chmod(PRIVATE)


def write_bytes(data: bytes, path: Path, *, mode: int = USUAL, follow: bool = True) -> None:
    """Write a file through a temporary one beside it, so that a full disk or a kill leaves the old one whole.

    Parameters
    ----------
    mode
        Permissions of a new file, less the umask; one that is there keeps its own unless `PRIVATE` is asked for.
    follow
        Whether a link is followed to its file; else the link itself gives way to the new file.

    Raises
    ------
    FileProblemError
        If it cannot be written; the file that was there is untouched.
    """
    try:
        target = path.resolve() if follow and path.is_symlink() else path
        if follow and target.is_symlink():  # round in a circle; before Python 3.13 `resolve` said so itself
            raise OSError(errno.ELOOP, os.strerror(errno.ELOOP))
        if target.is_dir() and not (target.is_symlink() and not follow):
            raise IsADirectoryError(errno.EISDIR, os.strerror(errno.EISDIR))
        old = _old_mode(target)
        if old is not None and follow and not os.access(target, os.W_OK):
            raise PermissionError(errno.EACCES, os.strerror(errno.EACCES))
        handle, temporary = _fresh(target, mode)
    except (OSError, ValueError, RuntimeError) as error:
        raise file_problem(path, error) from error
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            if old is not None and mode != PRIVATE:
                os.fchmod(file.fileno(), old)
            os.fsync(file.fileno())
        temporary.replace(target)
        _flush_folder(target.parent)
    except OSError as error:
        raise file_problem(path, error) from error
    finally:
        with contextlib.suppress(OSError):
            temporary.unlink(missing_ok=True)


def _old_mode(target: Path) -> int | None:
    """Return the permissions of the file that is there, or None."""
    try:
        found = target.lstat()
    except FileNotFoundError:
        return None
    if stat.S_ISLNK(found.st_mode):
        return None
    if not stat.S_ISREG(found.st_mode):
        raise FileProblemError(target, phrase("this is not an ordinary file; name a file."))
    return stat.S_IMODE(found.st_mode)


def _fresh(target: Path, mode: int) -> tuple[int, Path]:
    """Return a new file beside a target, made by this process alone and never through a link."""
    flags = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
    stem = _short(target.name)
    while True:
        temporary = target.with_name(f".{stem}.{secrets.token_hex(4)}{_TEMPORARY}")
        try:
            return os.open(temporary, flags, mode), temporary
        except FileExistsError:
            continue


def _short(name: str) -> str:
    """Return a name that leaves room for more: what is UTF-8 of its first 80 bytes; names may be of any bytes."""
    return os.fsencode(name)[:80].decode("utf-8", "ignore")


def _flush_folder(folder: Path) -> None:
    """Flush the folder's own list to the disk; some file systems know no such thing."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def sweep(folder: Path, stem: str = "", older_than_s: float = STRAY_AFTER_S) -> tuple[Path, ...]:
    """Remove temporary files that a kill left in a folder; return which.

    Parameters
    ----------
    stem
        Only those of a file of this name; "" for all.
    """
    gone = []
    with contextlib.suppress(OSError, ValueError, RuntimeError):
        for path in list(folder.iterdir()):
            if _stray(path, stem, older_than_s):
                with contextlib.suppress(OSError):
                    path.unlink()
                    gone.append(path)
    return tuple(gone)


def _stray(path: Path, stem: str, older_than_s: float) -> bool:
    parts = path.name[1:].rsplit(".", 2)
    ours = path.name.startswith(".") and len(parts) == 3 and f".{parts[2]}" == _TEMPORARY and len(parts[1]) == 8
    if not ours or (stem and parts[0] != _short(stem)):
        return False
    with contextlib.suppress(OSError):
        found = path.lstat()
        return stat.S_ISREG(found.st_mode) and abs(time.time() - found.st_mtime) > older_than_s
    return False
