"""The resins of a job line, what sets them, and how much of it."""

import re
from collections.abc import Sequence

from layup.errors import LayupError
from layup.job import FIRST_USE, MOST_RESINS, ResinInUse
from layup.laminate.job_line.reading import Reading, called, change, new_id
from layup.laminate.job_line.words import RESINS
from layup.materials import ResinSystem

_HARDENERS = ("fast", "medium", "slow", "extra slow")
_PER_CENT = re.compile(r"(\d+(?:[.,]\d+)?) ?%")


def resin_said(reading: Reading, words: str) -> bool:
    """A resin by its name or its kind; the first that is said is the job's, another is of the clause that says it."""
    resin = called(reading.library.resins, words) or _of_kind(reading.library.resins, words)
    if resin is None:
        return _resin_with_hardener(reading, words)
    reading.resins[resin.id] = resin
    first = reading.uses[0]
    if not first.resin_id:
        reading.uses[0] = first.model_copy(update={"resin_id": resin.id})
        return True
    use = next((use for use in reading.uses if use.resin_id == resin.id), None)
    if use is None:
        if len(reading.uses) == MOST_RESINS:
            raise LayupError(f"a job has {MOST_RESINS} resins at most")
        use = ResinInUse(id=new_id(), word=words, resin_id=resin.id)
        reading.uses.append(use)
    reading.use_id = "" if use.id == FIRST_USE else use.id
    if reading.in_hand:
        change(reading, use_id=reading.use_id)
    return True


def _resin_with_hardener(reading: Reading, words: str) -> bool:
    """Both in one breath: `epoxy slow`."""
    for hardener in sorted(_HARDENERS, key=len, reverse=True):
        if words.lower().endswith(f" {hardener}") and resin_said(reading, words[: -len(hardener)].strip()):
            return hardener_said(reading, hardener)
    return False


def _of_kind(resins: Sequence[ResinSystem], words: str) -> ResinSystem | None:
    family, made_for = RESINS.get(words.lower(), ("", ""))
    return next((resin for resin in resins if (resin.family, resin.made_for) == (family, made_for)), None)


def hardener_said(reading: Reading, words: str) -> bool:
    """A hardener by its name, of the resin in hand."""
    words = re.sub(r" hardener$", "", words, flags=re.IGNORECASE)
    at = _use_in_hand(reading)
    resin = reading.resins.get(reading.uses[at].resin_id)
    hardener = resin and called(resin.hardeners, words)
    if hardener:
        reading.uses[at] = reading.uses[at].model_copy(update={"hardener_id": hardener.id})
    elif words.lower() in _HARDENERS:
        of = f"{resin.name} has no hardener of that name" if resin else "say the resin before its hardener"
        raise LayupError(of)
    return bool(hardener)


def _use_in_hand(reading: Reading) -> int:
    return next((at for at, use in enumerate(reading.uses) if use.id == (reading.use_id or FIRST_USE)), 0)


def dose_said(reading: Reading, words: str) -> bool:
    """How much catalyst, per cent of the resin in hand."""
    found = _PER_CENT.fullmatch(words)
    if not found:
        return False
    at = _use_in_hand(reading)
    resin = reading.resins.get(reading.uses[at].resin_id)
    if resin is None or resin.catalyst is None:
        raise LayupError("a share is of a catalyst: say first a resin that takes one, such as polyester")
    # Read anew, so that a dose that cannot be is told.
    dosed = reading.uses[at].model_dump() | {"catalyst_pct": float(found[1].replace(",", "."))}
    reading.uses[at] = ResinInUse.model_validate(dosed)
    return True
