"""A database brought up to this version: copied before it is changed, so that one can go back."""

from collections.abc import Callable
from pathlib import Path

from django.conf import settings
from django.core.management import CommandError, call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.utils import timezone

from cradle.keeping import Unsound, made_by_newer, take_backup


def bring_up_to_date(database: Path) -> Path | None:
    """Change an older database to what this version needs. Answers the copy that was made of it before; None where nothing
    was to be changed, or there was none.

    Raises Unsound, and changes nothing, where no copy can be made, or the data is of a newer version.
    """
    executor = MigrationExecutor(connection)
    _require_no_newer(executor)
    waiting = executor.migration_plan(executor.loader.graph.leaf_nodes())
    begun = bool(executor.loader.applied_migrations)
    if not waiting:
        return None
    copy = take_backup(database, database.parent / "backups" / "before-upgrades", timezone.now()) if begun else None
    call_command("migrate", verbosity=0)
    return copy


def bring_up_and_tell(say: Callable[[str], object]) -> None:
    """The same of the program's own data, for a command. Raises CommandError where it stays as it is."""
    try:
        before = bring_up_to_date(Path(settings.DATABASES["default"]["NAME"]))
    except Unsound as error:
        raise CommandError(f"{error}. The data was not changed for this version") from error
    if before:
        say(f"The data was brought up to this version. What it was before lies in {before}")


def require_this_version() -> None:
    """Raise Unsound where the data is not of this version: nobody could sign in to it."""
    executor = MigrationExecutor(connection)
    _require_no_newer(executor)
    if executor.migration_plan(executor.loader.graph.leaf_nodes()):
        begun = "is of an earlier version" if executor.loader.applied_migrations else "was not begun yet"
        raise Unsound(f"the data {begun}: `inch-cradle`, or `make demo` or `make shop`, brings it up to this one first")


def _require_no_newer(executor: MigrationExecutor) -> None:
    if made_by_newer(executor.loader.applied_migrations):
        raise Unsound("the data is of a newer version of Inch Cradle than this one: install that version again")
