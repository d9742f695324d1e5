"""Whose a copy or a run on disk is: each Pennello that runs holds a lock under a token of its own until it ends.

The kernel lets go of the lock when a process dies, however it dies, so that nobody takes what another one still uses,
and what a killed one left is known as left.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import secrets
from pathlib import Path

from pennello.disk import PRIVATE, make_private_folder

TOKEN_SIGNS = 8


class Owner:
    """This process's token; the lock lies in a folder of the state folder.

    Parameters
    ----------
    folder
        The state folder.
    """

    def __init__(self, folder: Path) -> None:
        self.token = secrets.token_hex(TOKEN_SIGNS // 2)
        self._folder = folder / "alive"
        self._handle: int | None = None

    def claim(self) -> str:
        """Hold the lock from now on, and return the token.

        Raises
        ------
        FileProblemError
            If the folder cannot be made.
        """
        if self._handle is None:
            make_private_folder(self._folder)
            with contextlib.suppress(OSError):
                flags = os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW | os.O_CLOEXEC
                handle = os.open(self._folder / self.token, flags, PRIVATE)
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
                self._handle = handle
        return self.token

    def left(self, token: str) -> bool:
        """Return whether what bears a token was left by a process that is gone, and take its lock away."""
        if token == self.token:
            return False
        path = self._folder / token
        try:
            handle = os.open(path, os.O_RDWR | os.O_NOFOLLOW | os.O_CLOEXEC)
        except OSError:
            return True  # nobody holds it, or it was held on another machine
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return False
        else:
            with contextlib.suppress(OSError):
                path.unlink()
            return True
        finally:
            os.close(handle)

    def release(self) -> None:
        """Let go: whatever still bears the token is left."""
        if self._handle is not None:
            with contextlib.suppress(OSError):
                (self._folder / self.token).unlink(missing_ok=True)
            os.close(self._handle)
            self._handle = None
