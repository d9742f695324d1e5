"""The plan's file: opening, saving, copies of what is not saved, and what others do to it meanwhile."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QLockFile, QObject, QTimer, Signal
from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from pennello.design.fresh import fresh_plan
from pennello.design.plan import Plan
from pennello.disk import exists
from pennello.errors import PennelloError
from pennello.files.demo import demo_plan
from pennello.files.plan_json import SUFFIX
from pennello.phrases import phrase
from pennello.session.autosave import AUTOSAVE_S, Autosave, Left
from pennello.session.document import ChangedOnDiskError, Document, with_suffix
from pennello.session.jobs import Jobs
from pennello.ui.banner import Banner
from pennello.ui.widgets.asking import ask_source, may_write_over
from pennello.ui.widgets.folders import FOLDERS
from pennello.ui.widgets.pending import settle_typing
from pennello.ui.widgets.plain import tip
from pennello.ui.work import begin

_FILTER = phrase("Pennello plans (*{suffix})", suffix=SUFFIX)


class PlanFiles(QObject):
    """Opens and saves.

    Signals
    -------
    remembered(Path)
        A plan was opened or saved there.
    """

    remembered = Signal(object)

    def __init__(self, document: Document, banner: Banner, folder: Path, window: QWidget) -> None:
        super().__init__(window)
        self.document, self._banner, self._window = document, banner, window
        self.autosave = Autosave(document, folder)
        self._lock: QLockFile | None = None
        self._jobs = Jobs()
        self._failing = False
        self.keeper = QTimer(self)
        self.keeper.setInterval(round(AUTOSAVE_S * 1000))
        self.keeper.timeout.connect(self.keep)
        self.keeper.start()

    @property
    def folder(self) -> Path:
        """Where a dialog begins."""
        return self.document.path.parent if self.document.path else Path.home()

    def guarded(self, act: Callable[[], object]) -> bool:
        """Do something; say what is wrong if it cannot be done."""
        try:
            act()
        except PennelloError as error:
            self._banner.say(str(error))
            return False
        return True

    # --- copies ---

    def keep(self) -> None:
        """Let a worker write the copy, if there is anything new; a copy that fails is said once and tried again."""
        wanted = self.autosave.snapshot()
        if wanted is not None:
            autosave = self.autosave
            begin(
                self._jobs,
                "copy",
                self,
                lambda _: autosave.write(wanted),
                finished=lambda _: self._kept(""),
                failed=self._kept,
                to_the_end=True,
            )

    def _kept(self, problem: str) -> None:
        if problem and not self._failing:
            self._banner.say(
                phrase("What is not saved yet could not be copied, and is tried again: {problem}", problem=problem)
            )
        self._failing = bool(problem)

    def offer_unnamed(self) -> None:
        """Offer copies of plans that never had a file, left by a kill."""
        self._offer(self.autosave.left(None), None)

    def _offer(self, left: Left, path: Path | None, first: str = "") -> None:
        """Offer what was left, one copy after another; each stays as it is until it is answered."""
        aside = " ".join([first, *left.set_aside]).strip()
        if not left.copies:
            if aside:
                self._banner.say(aside)
            return
        found = left.copies[0]
        rest = Left(left.copies[1:])

        def take() -> None:
            if self.document.path == path:
                self.document.edit(phrase("Take the copy"), found.plan)  # what is here comes back by undo
            elif self.may_leave():
                self._hold(path)
                self.document.replace(found.plan, path, saved=False)
            else:
                self._offer(left, path)
                return
            self.guarded(lambda: self.autosave.adopt(found))

        def throw_away() -> None:
            self.autosave.discard(found)
            self._offer(rest, path)

        name = path.name if path else phrase("a plan without a name")
        words = phrase(
            "There is an autosaved copy of {name} from {saved_at:%d %B, %H:%M} that is not in the file.",
            name=name,
            saved_at=found.saved_at,
        )
        self._banner.say(
            f"{aside} {words}".strip(), (phrase("Take the copy"), take), (phrase("Throw the copy away"), throw_away)
        )

    # --- opening ---

    def new_plan(self) -> None:
        """Start an empty plan."""
        if self.may_leave():
            self._hold(None)
            self.document.replace(fresh_plan())

    def open_demo(self) -> None:
        """Open the demo plan."""
        self.open_shipped(demo_plan())

    def open_shipped(self, plan: Plan) -> bool:
        """Open a plan that ships with Pennello; it has no file until it is saved."""
        if not self.may_leave():
            return False
        self._hold(None)
        return self.guarded(lambda: self.document.replace(plan))

    def ask_open(self) -> None:
        """Ask for a plan and open it."""
        path = ask_source(self._window, phrase("Open a plan"), "plans", _FILTER, self.folder)
        if path is not None:
            self.open_path(path)

    def open_path(self, path: Path) -> bool:
        """Open a plan; offer copies that were left of it. Return whether what was open could be left."""
        if not self.may_leave():
            return False
        left: Left = self.autosave.left(path)
        problem = ""
        try:
            self.document.open(path)
        except PennelloError as error:
            problem = str(error)
        else:
            self.remembered.emit(path)
            problem = self._hold(path)
        self._offer(left, path, problem)
        return True

    def _hold(self, path: Path | None) -> str:
        """Say to other Pennellos that this plan is open here; return a sentence where it is open there already."""
        if self._lock is not None:
            self._lock.unlock()
            self._lock = None
        if path is None:
            return ""
        lock = QLockFile(str(path.with_name(f".{path.name}.lock")))
        lock.setStaleLockTime(0)  # only whose process is gone
        if lock.tryLock(0):
            self._lock = lock
        elif lock.error() == QLockFile.LockError.LockFailedError:
            return phrase(
                "{path} is open in another Pennello too; what is saved there is not written over unasked.",
                path=path.name,
            )
        return ""

    # --- saving ---

    def save(self) -> bool:
        """Save where the plan came from, or ask."""
        settle_typing()
        return self.save_to(self.document.path) if self.document.path else self.save_as()

    def save_as(self) -> bool:
        """Ask where to save."""
        stem = "".join(c if c.isalnum() else "-" for c in self.document.plan.title.lower()).strip("-")[:60] or "plan"
        start = str(FOLDERS.of("plans", self.folder) / f"{stem}{SUFFIX}")
        name, _ = QFileDialog.getSaveFileName(self._window, phrase("Save the plan"), start, _FILTER)
        if not name or not Path(name).name:
            return False
        FOLDERS.note("plans", Path(name))
        target = with_suffix(Path(name))
        if target != Path(name) and exists(target) and not may_write_over(self._window, target):
            return False
        return self.save_to(target, over=True)

    def save_to(self, path: Path, *, over: bool = False) -> bool:
        """Save at a place; what somebody else has changed there is asked about first."""
        old = self.document.path
        try:
            target = self.document.save(path, over=over)
        except ChangedOnDiskError as error:
            self._banner.say(
                str(error),
                (phrase("Keep mine"), lambda: self.save_to(path, over=True)),
                (phrase("Take theirs"), self.take_theirs),
                (phrase("Save as ..."), self.save_as),
                holds=lambda: self.document.path == old,
            )
            return False
        except PennelloError as error:
            self._banner.say(str(error))
            return False
        self.autosave.forget()
        self.remembered.emit(target)
        if target != old:
            self._hold(target)
        return True

    def take_theirs(self) -> None:
        """Show what is in the file now; undo brings back what was here."""
        self.guarded(self.document.take_from_disk)

    # --- leaving ---

    def may_leave(self) -> bool:
        """Ask about a plan that is not saved; return whether to go on."""
        settle_typing()
        if not self.document.dirty:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self._window,
            phrase("Not saved"),
            tip(phrase("{plan} has changes that are not saved.", plan=self.document.plan.title)),
            buttons.Save | buttons.Discard | buttons.Cancel,
            buttons.Save,
        )
        if answer == buttons.Save:
            return self.save()
        if answer == buttons.Discard:
            self.autosave.forget()
            return True
        return False

    def leave(self, *, copy: bool) -> None:
        """The window ends, and others may have the plan; what is not saved is kept as a copy, or given up."""
        self.keeper.stop()
        self._jobs.close()
        if copy:
            self.autosave.leave_copy()
        else:
            self.autosave.close()
        self._hold(None)
