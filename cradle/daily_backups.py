"""A copy of the shop's data each day while the server runs, and the last ones kept."""

import logging
import threading
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from cradle.keeping import Unsound, take_backup

logger = logging.getLogger(__name__)
_LOOKS_AGAIN_S = 600.0


def follow_the_days() -> None:
    """A copy of the program's own data on each day that it is served, in a thread of its own."""
    database, folder = Path(settings.DATABASES["default"]["NAME"]), settings.DATA_DIR / "backups" / "daily"
    DailyBackups(database, folder, settings.BACKUPS_KEPT, timezone.now).follow()


class DailyBackups:
    """Copies of a database in a folder: one of each day it was served, the last `kept` of them."""

    def __init__(self, database: Path, folder: Path, kept: int, now: Callable[[], datetime]):
        self._database, self._folder, self._kept, self._now = database, folder, kept, now

    def follow(self) -> None:
        """See to it in a thread of its own, for as long as the process runs."""
        threading.Thread(target=self._follow, daemon=True, name="backups").start()

    def _follow(self) -> None:
        resting = threading.Event()
        while True:
            try:
                self.see_to_it()
            except (Unsound, OSError):
                # A disk that is full today may have room tomorrow.
                logger.exception("no copy of the day could be made")
            resting.wait(_LOOKS_AGAIN_S)

    def see_to_it(self) -> Path | None:
        """The copy of today where there was none yet. The oldest go once it stands, never before."""
        today = f"cradle-{self._now():%Y%m%d}-"
        if any(self._folder.glob(f"{today}*.sqlite3")):
            return None
        made = take_backup(self._database, self._folder, self._now())
        copies = sorted(self._folder.glob("cradle-*.sqlite3"))
        for old in copies[: -self._kept]:
            old.unlink()
        return made
