"""A database brought up to this version: copied before it is changed, so that one can go back."""

from pathlib import Path

from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.utils import timezone

from cradle.keeping import take_backup


def bring_up_to_date(database: Path) -> Path | None:
    """Change an older database to what this version needs. Answers the copy that was made of it before; None where nothing
    was to be changed, or there was none.

    Raises Unsound, and changes nothing, where no copy can be made.
    """
    executor = MigrationExecutor(connection)
    waiting = executor.migration_plan(executor.loader.graph.leaf_nodes())
    begun = bool(executor.loader.applied_migrations)
    if not waiting:
        return None
    copy = take_backup(database, database.parent / "backups" / "before-upgrades", timezone.now()) if begun else None
    call_command("migrate", verbosity=0)
    return copy
