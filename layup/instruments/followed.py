"""What is believed of an instrument: the middle of three readings, nothing that jumps as no cup and no pot can."""

from collections import deque
from dataclasses import dataclass
from statistics import median

from layup.instruments.lines import Instrument

# memory: an instrument that sends nothing for so long is silent, s
SILENT_S: dict[Instrument, float] = {"scale": 5.0, "thermometer": 15.0, "room": 300.0}
# memory: a weight that stays within its step so long stands still, s; where the scale itself says so, so long
_STILL_S, _SAYS_SO_S = 1.2, 0.5
# memory: what a hand's tremor and a draught move, as a share of what lies on the scale
_TREMBLES = 0.0005
# memory: a knock throws a single reading so far from those beside it, g
_KNOCK_G = 5.0
# memory: every reading far from those on both its sides, so many times on end, is two scales on one port
_TWO_AT_ONCE = 6
# memory: no surface warms or cools so fast, K/min; one so much warmer than its room does not stay to a tenth so long, s
_FASTEST_K_PER_MIN, _HOT_OVER_K, _STUCK_S = 60.0, 15.0, 60.0


@dataclass(frozen=True)
class Believed:
    """A reading that is believed, when it was taken, s, and whether it stands still; `trouble` is why one was not."""

    at_s: float
    value: float
    still: bool = False
    trouble: str = ""


class ScaleFollower:
    """A scale as it is listened to. `step_g` is the least it tells apart.

    >>> scale = ScaleFollower(1.0)
    >>> [scale.take(at / 5, grams).value for at, grams in enumerate([12, 12, 240, 12, 12, 12, 12, 12, 12])]
    [12, 12.0, 12, 12, 12, 12, 12, 12, 12]
    >>> scale.last.still
    True
    """

    def __init__(self, step_g: float) -> None:
        self._step_g = step_g
        self._raw: deque[float] = deque(maxlen=3)
        self._thrown = 0
        self._kept: deque[tuple[float, float, bool | None]] = deque(maxlen=600)
        self.last: Believed | None = None

    def take(self, at_s: float, grams: float, still: bool | None = None) -> Believed:
        """Take a reading, g, and whether the scale says that it stands still.

        >>> scale = ScaleFollower(1.0)
        >>> [scale.take(at / 5, 12.0, True).still for at in range(5)]
        [False, False, False, True, True]
        """
        self._raw.append(grams)
        value = median(self._raw)
        self._kept.append((at_s, value, still))
        self._thrown = self._thrown + 1 if self._knocked() else 0
        two = self._thrown >= _TWO_AT_ONCE
        trouble = "two at once" if two else "knocked" if self._thrown == 1 else ""
        self.last = Believed(at_s, value, not two and self._still(at_s, value), trouble)
        return self.last

    def _knocked(self) -> bool:
        """Whether the reading before this one stood alone, far from those on both its sides."""
        if len(self._raw) < 3:
            return False
        before, thrown, after = self._raw
        return abs(after - before) <= self._step_g and abs(thrown - after) > _KNOCK_G

    def _still(self, at_s: float, value: float) -> bool:
        near = self._step_g + _TREMBLES * abs(value)
        says = self._kept[-1][2]
        if says is False or abs(self._raw[-1] - value) > near:
            return False
        for then_s, then, _ in reversed(self._kept):
            if abs(then - value) > near:
                return False
            if at_s - then_s >= (_STILL_S if says is None else _SAYS_SO_S):
                return True
        return False


class WarmthFollower:
    """A thermometer as it is listened to; `room_c` is the room it stands in, where that is known.

    >>> probe = WarmthFollower(20.0)
    >>> [probe.take(5 * n, c).trouble for n, c in enumerate([21.0, 21.2, 21.1, 85.0, 85.0, 21.4, 21.4])]
    ['', '', '', '', 'jumped', 'jumped', '']
    >>> probe.last.value
    21.4
    """

    def __init__(self, room_c: float | None = None) -> None:
        self._room_c = room_c
        self._raw: deque[float] = deque(maxlen=3)
        self._same_since: tuple[float, float] | None = None
        self.last: Believed | None = None

    def take(self, at_s: float, warmth_c: float) -> Believed:
        """Take a reading, °C; what is told is the last that is believed, and why this one is not.

        >>> stuck = WarmthFollower(20.0)
        >>> [stuck.take(10 * n, 85.0).trouble for n in range(8)][-2:]
        ['stuck', 'stuck']
        """
        if self._same_since is None or self._same_since[1] != warmth_c:
            self._same_since = at_s, warmth_c
        self._raw.append(warmth_c)
        value = median(self._raw)
        trouble = self._trouble(at_s, value, warmth_c)
        if trouble and self.last:
            return Believed(self.last.at_s, self.last.value, trouble=trouble)
        believed = Believed(at_s, value, trouble=trouble)
        if not trouble:
            self.last = believed
        return believed

    def _trouble(self, at_s: float, value: float, raw: float) -> str:
        assert self._same_since
        hot = self._room_c is not None and raw - self._room_c > _HOT_OVER_K
        if hot and at_s - self._same_since[0] >= _STUCK_S:
            return "stuck"
        if self.last is not None:
            step = abs(value - self.last.value) - 1.0
            if step > _FASTEST_K_PER_MIN * (at_s - self.last.at_s) / 60:
                return "jumped"
        return ""


def silent_s(kind: Instrument, last_at_s: float | None, now_s: float) -> float | None:
    """For how long an instrument has sent nothing, s, where that is longer than it should be.

    >>> silent_s("scale", 10.0, 12.0), silent_s("scale", 10.0, 70.0), silent_s("room", 10.0, 70.0)
    (None, 60.0, None)
    """
    if last_at_s is None or now_s - last_at_s <= SILENT_S[kind]:
        return None
    return now_s - last_at_s
