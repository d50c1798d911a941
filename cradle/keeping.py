"""Backups of the shop's data: a whole copy taken while the shop works, checked, and put back."""

import shutil
import sqlite3
from collections.abc import Iterable, Iterator
from contextlib import closing, contextmanager
from datetime import datetime
from pathlib import Path

from django.db.migrations.loader import MigrationLoader
from filelock import FileLock, Timeout

# What others change of a database.
_NOT_OURS = ("auth", "contenttypes", "sessions")


class Unsound(Exception):
    """A file that is no sound copy of this product's database, or a copy that could not be written."""


@contextmanager
def alone_at(folder: Path) -> Iterator[bool]:
    """Whether nobody else serves from a data folder, or restores it; held until left, however that goes."""
    lock = FileLock(folder / "serving.lock", blocking=False)
    try:
        lock.acquire()
    except Timeout:
        yield False
        return
    try:
        yield True
    finally:
        lock.release()


@contextmanager
def open_to_readers(database: Path) -> Iterator[None]:
    """The database held open: whoever opens it after finds its log and its index there, also on a disk that is full."""
    with closing(sqlite3.connect(database)) as held:
        held.execute("SELECT count(*) FROM sqlite_master").fetchone()
        yield


def take_backup(database: Path, folder: Path, now: datetime) -> Path:
    """Copy a live database into a folder, whole and checked. Answers the copy's path.

    Raises Unsound where it cannot be written, and leaves nothing behind then.
    """
    copy = folder / f"cradle-{now:%Y%m%d-%H%M%S}.sqlite3"
    half = copy.with_suffix(".half")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with closing(sqlite3.connect(database)) as live, closing(sqlite3.connect(half)) as target:
            live.backup(target)
        require_sound(half)
        half.replace(copy)
    except (sqlite3.Error, OSError) as failed:
        raise Unsound(f"no copy could be written to {folder}: {failed}") from failed
    finally:
        half.unlink(missing_ok=True)
    return copy


def require_sound(copy: Path) -> None:
    """Raise Unsound unless a file is a whole database of this product, and of no newer one.

    It is only read, and may stand where nothing can be written.
    """
    try:
        with closing(sqlite3.connect(f"{copy.resolve().as_uri()}?immutable=1", uri=True)) as opened:
            whole = opened.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
            made_by = set(opened.execute("SELECT app, name FROM django_migrations"))
            tables = {row[0] for row in opened.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    except sqlite3.Error as error:
        raise Unsound(f"{copy.name} is no Inch Cradle database, or only a part of one") from error
    if not whole or not {"shops_shop", "jobs_jobrevision", "bench_run"} <= tables:
        raise Unsound(f"{copy.name} is no whole copy of an Inch Cradle database")
    if made_by_newer(made_by):
        raise Unsound(f"{copy.name} was made by another version of Inch Cradle, newer than this one")


def made_by_newer(applied: Iterable[tuple[str, str]]) -> bool:
    """Whether a database has seen changes that this version does not know."""
    ours = {(app, name) for app, name in applied if app not in _NOT_OURS}
    return not ours <= set(MigrationLoader(None).disk_migrations)


def words_of_disk(error: Exception) -> str:
    """What keeps the server from writing, in words for who was saving."""
    said = str(error)
    if "full" in said:
        return "the disk of the server is full: nothing was saved; make room on it, then save again"
    if "readonly" in said or "unable to open" in said:
        return "the server may not write in its data folder: nothing was saved; give it leave to, then save again"
    if "locked" in said:
        return "others were saving for too long: nothing was saved; try again in a moment"
    return "the server cannot write to its disk: nothing was saved; look at the disk, then save again"


def put_back(copy: Path, database: Path, now: datetime) -> Path | None:
    """Put a backup in the database's place; what stood there is kept beside it. Answers where, or None.

    Raises Unsound before anything is touched where the copy is none, or the server is running.
    """
    require_sound(copy)
    with alone_at(database.parent) as alone:
        if not alone:
            raise Unsound("the server is running on this data: stop it first, then restore")
        kept = take_backup(database, database.parent / "backups", now) if database.exists() else None
        fresh = database.with_suffix(".new")
        try:
            shutil.copyfile(copy, fresh)
        except OSError as failed:
            fresh.unlink(missing_ok=True)
            raise Unsound(f"the copy could not be put in place: {failed}; what stood there still does") from failed
        for leftover in ("-wal", "-shm"):
            database.with_name(database.name + leftover).unlink(missing_ok=True)
        fresh.replace(database)
    return kept
