"""Backups of the shop's data: a whole copy taken while the shop works, checked, and put back."""

import shutil
import sqlite3
from contextlib import closing
from datetime import datetime
from pathlib import Path


class Unsound(Exception):
    """A file that is no sound copy of this product's database."""


def take_backup(database: Path, folder: Path, now: datetime) -> Path:
    """Copy a live database into a folder, whole and checked. Answers the copy's path."""
    folder.mkdir(parents=True, exist_ok=True)
    copy = folder / f"cradle-{now:%Y%m%d-%H%M%S}.sqlite3"
    with closing(sqlite3.connect(database)) as live, closing(sqlite3.connect(copy)) as target:
        live.backup(target)
    require_sound(copy)
    return copy


def require_sound(copy: Path) -> None:
    """Raise Unsound unless a file is a whole database with this product's tables."""
    try:
        with closing(sqlite3.connect(f"file:{copy}?mode=ro", uri=True)) as opened:
            whole = opened.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
            tables = {row[0] for row in opened.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    except sqlite3.DatabaseError as error:
        raise Unsound(f"{copy.name} is no database") from error
    if not whole or not {"shops_shop", "jobs_jobrevision", "bench_potevent"} <= tables:
        raise Unsound(f"{copy.name} is no whole copy of an Inch Cradle database")


def put_back(copy: Path, database: Path, now: datetime) -> Path | None:
    """Put a backup in the database's place; what stood there is kept beside it. Answers where, or None.

    The server must not be running. Raises Unsound before anything is touched.
    """
    require_sound(copy)
    kept = None
    if database.exists():
        kept = take_backup(database, database.parent / "backups", now)
    fresh = database.with_suffix(".new")
    shutil.copyfile(copy, fresh)
    for leftover in ("-wal", "-shm"):
        database.with_name(database.name + leftover).unlink(missing_ok=True)
    fresh.replace(database)
    return kept
