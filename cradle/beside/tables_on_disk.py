"""Tables of heat kept in the data folder from one start of the server to the next, as long as the model is the same.

They are read as Python wrote them: the folder is shut to others, and holds the shop's own database.
"""

import hashlib
import logging
import pickle
import shutil
from contextlib import suppress
from functools import cache
from pathlib import Path

import numpy
import scipy
from django.conf import settings

import layup.chemistry
import layup.heat
from cradle.beside import tables
from layup.heat.heat_fit import StatedPot
from layup.heat.pot_heat import PotHeat

logger = logging.getLogger(__name__)


@cache
def _model() -> str:
    """What a table depends on besides what is stated of a pot: the code of the model, and what it reckons with."""
    told = hashlib.sha256(f"{numpy.__version__} {scipy.__version__}".encode())
    for chapter in (layup.heat, layup.chemistry):
        for file in sorted(Path(chapter.__file__).parent.glob("*.py")):
            told.update(file.read_bytes())
    return told.hexdigest()[:16]


def _folder() -> Path:
    return settings.DATA_DIR / "heat" / _model()


def write_table(stated: StatedPot, heat: PotHeat) -> None:
    """Keeps a table; where the disk takes none, it is made again another time."""
    name = hashlib.sha256(repr(stated).encode()).hexdigest()[:32]
    try:
        _folder().mkdir(parents=True, exist_ok=True)
        half = _folder() / f"{name}.half"
        half.write_bytes(pickle.dumps((stated, heat), protocol=5))
        half.replace(half.with_suffix(".table"))
    except OSError as failed:
        logger.warning("a table of heat is not kept: %s", failed)


def read_tables() -> None:
    """Goes by every table that is kept; those of another model, and what cannot be read, are removed."""
    for older in settings.DATA_DIR.glob("heat/*"):
        if older != _folder():
            shutil.rmtree(older, ignore_errors=True)
    for file in sorted(_folder().glob("*.table"), key=lambda file: file.stat().st_mtime):
        try:
            tables.keep_table(*pickle.loads(file.read_bytes()))
        except Exception:
            logger.warning("the table of heat %s cannot be read: it is made anew", file.name)
            with suppress(OSError):
                file.unlink()
