"""Plans the work in its order and its time: each pot mixed and spread, each layer in its window, by the hands and hours there are."""

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cache, cached_property
from itertools import takewhile
from math import inf

from layup.chemistry.cure import CureClocks
from layup.day.chains import Chain, Top, chains_of_lane, lane_id, tie, wet_together
from layup.day.forecast import Room
from layup.day.schedule import (
    HALF_HOUR_MIN,
    Busy,
    Clocks,
    Division,
    LaidAlready,
    Lane,
    Layer,
    PlannedPot,
    Schedule,
)
from layup.day.shop_clock import ShopClock
from layup.errors import known
from layup.heat.wet_limit import WetLimit
from layup.job import PotWishes
from layup.pots.crew import team_of
from layup.pots.mix import Mix
from layup.pots.sizing import (
    CUP_LOSS_SHARE,
    PotSize,
    Stuck,
    mixed_for_g,
    next_batch,
    readable_g,
    smaller,
    works_for_one_pot,
)
from layup.pots.work import Owner, Sets, Waits, Work, laid_of, rate_of

# Minutes (memory).
WEIGH_MIN = 2.0
SAND_MIN_PER_M2 = 10.0
PEEL_MIN_PER_M2 = 2.0
PREPARE_MIN_PER_M2 = 4.0
# A pot is sized for the warmest of so long from its half hour on.
LOOK_AHEAD_MIN = 40.0
MOST_POTS = 3000
# Pots that are mixed only because no smaller one can be measured, for one work, at most: more are not printed (memory).
MOST_LEFT_OVER = 4
_MOST_TURNS = 20_000


def _windows(
    clocks: Clocks, first_touch: float, last_touch: float, waits: Waits, sets: Sets | None
) -> tuple[float, float]:
    """When the next layer may go on, and until when: the last that was laid tacks last, the first closes first."""
    if sets:
        return last_touch + sets.opens_min, first_touch + sets.closes_min
    opens = clocks.after("tack_min" if waits == "for tack" else "next_ply_from_min", last_touch)
    return opens, clocks.after("window_closes_min", first_touch)


def _on_top(chain: Chain) -> Work:
    """The work that was laid last on a lane, whole or in part."""
    return chain.works[chain.at if chain.left_g is not None else max(0, chain.at - 1)]


def stands_min(drawn_min: Sequence[float], cycle_min: float) -> float:
    """How long a pot stands in the bucket before it is drawn, so that each of the next is mixed in time: at first the vacuum
    draws faster than anybody mixes. `drawn_min` is how long it and each after it is drawn, `cycle_min` how long one takes to
    weigh and mix.

    >>> stands_min([1, 2, 20, 20], 5), stands_min([10, 20], 5)
    (7.0, 0.0)
    """
    ahead, drawn = 0.0, 0.0
    for number, minutes in enumerate(drawn_min[:-1], 1):
        drawn += minutes
        ahead = max(ahead, number * cycle_min - drawn)
    return ahead


class Planner:
    """Lays out works in time: one crew, which takes up the next layer that may be laid; a mixer, or the crew mixes.

    `mix_at` is the mix of a resin in use for a temperature, and `wishes` are the job's about its pots. Of a run that is begun, `lane_ids` are its lanes, which stay as they are. Layers go on by turns: one on each copy before the next, so that a copy has
    time to tack while the others are laid; of what `divisions` divides, by its owner's id, each bay is laid whole before
    the next is begun. Nothing begins before `from_min`.
    """

    def __init__(
        self,
        owners: Sequence[Owner],
        mix_at: Callable[[str, float], Mix],
        wishes: PotWishes,
        room: Room,
        clock: ShopClock,
        *,
        wet_limits: Callable[[str, float], tuple[WetLimit, ...]] = lambda owner_id, room_c: (),
        first_number: int = 1,
        laid: Sequence[LaidAlready] = (),
        lane_ids: Collection[str] = (),
        divisions: Mapping[str, Division] | None = None,
        from_min: float = 0.0,
    ):
        self.mix_at, self.room, self.clock = mix_at, room, clock
        team = team_of(wishes)
        self.mixer_apart, self.peel_ply = team.mixer_apart, wishes.stops_with == "peel ply"
        self.hands = team.hands
        self._clocks: dict[tuple[str, str], Clocks] = {}
        self._warmest = cache(
            lambda cell: room.warmest_c(cell * HALF_HOUR_MIN, (cell + 1) * HALF_HOUR_MIN + LOOK_AHEAD_MIN)
        )
        self.wet_limits = wet_limits
        self.found = Schedule()
        self.number = first_number
        self._lane_ids = lane_ids
        self._divisions = divisions or {}
        self.hands_free = self.mixer_free = from_min
        self._draws = False
        self.chains = list(self._chains(owners))
        tie(self.chains, owners)
        self._take_off(laid)

    def clocks(self, mix: Mix) -> Clocks:
        """The clocks of what was laid of a mix: it keeps its hardener while the room changes."""
        use_id, hardener = mix.use.id, mix.hardener
        key = use_id, hardener.id if hardener else ""
        if key not in self._clocks:

            def clocks_at(room_c: float) -> CureClocks:
                there = self.mix_at(use_id, room_c)
                kept = hardener is None or (there.hardener is not None and there.hardener.id == hardener.id)
                return (there if kept or hardener is None else replace(there, set_by=hardener)).clocks

            self._clocks[key] = Clocks(self.room, clocks_at)
        return self._clocks[key]

    def run(self) -> Schedule:
        """The schedule. Deterministic: the same works at the same start come out the same."""
        return self._schedule

    @cached_property
    def _schedule(self) -> Schedule:
        going = [chain for chain in self.chains if not chain.done]
        for _ in range(_MOST_TURNS):
            if not going:
                break
            chain = self._turn(going)
            if chain is not None and chain.done:
                going.remove(chain)
            if len(self.found.pots) > MOST_POTS:
                self.found.too_many = True
                break
        return self.found

    def _chains(self, owners: Sequence[Owner]) -> Iterator[Chain]:
        order = 0
        for place, owner in enumerate(map(self._with_rests, owners)):
            area = max(work.area_m2 for work in owner.works)
            if owner.copies > 1 and self._share(owner):
                lanes = [Lane(owner.id, owner, 0, owner.copies, area * owner.copies)]
            else:
                lanes = [
                    Lane(lane_id(owner, n) if owner.copies > 1 else owner.id, owner, n, 1, area)
                    for n in range(1, owner.copies + 1)
                ]
            turn = 0
            for lane in lanes:
                for chain in chains_of_lane(lane, self._divisions.get(owner.id, Division())):
                    chain.owner_order, chain.order, chain.ready_min = place, order, self.clock.opening(self.hands_free)
                    if self._divisions.get(owner.id, Division()).bays or owner.under_bag:
                        chain.turn = turn
                        turn += 1
                    order += 1
                    yield chain
                self.found.lanes.append(chain.lane)

    def _with_rests(self, owner: Owner) -> Owner:
        """The owner with a wait to set wherever more plies wet at once would heat up too much.

        What is wet counts from the core beneath it on; a core waits where it would shut in too much of what is.
        """
        limits = self.wet_limits(owner.id, self._room_at(0.0))
        wet_mm, skin, works = 0.0, 0, []
        for work in owner.works:
            beneath_mm = 0.0 if work.waits else wet_mm
            covered = limits[skin].covered_mm if limits and work.covers else inf
            if work.skin != skin:
                wet_mm, skin = 0.0, work.skin
            limit_mm = covered if work.covers else limits[skin].open_mm if limits else inf
            wet_mm = work.thickness_mm + (0.0 if work.covers else beneath_mm)
            rests = beneath_mm > 0 and (beneath_mm if work.covers else wet_mm) > limit_mm
            if rests:
                wet_mm = work.thickness_mm
                self.found.rests.append((owner, work, limit_mm))
            works.append(replace(work, waits="to set") if rests else work)
        return replace(owner, works=tuple(works))

    def _share(self, owner: Owner) -> bool:
        """Whether copies share pots: as they do already, or where one pot at least holds whatever of one copy is laid
        without a wait."""
        if owner.id in self._lane_ids:
            return True
        if lane_id(owner, 1) in self._lane_ids:
            return False
        if owner.one_run:
            return True
        works, at = owner.works, 0
        while at < len(works):
            group = self._for_one_pot(works, at, 0.0)
            size = self._size_of(group, 0.0)
            at += len(group)
            goes_on = (
                at < len(works) and not works[at].waits and not (works[at].handling.alone or group[0].handling.alone)
            )
            if size.largest_g is None or size.count_for(laid_of(group)) > 1 or goes_on:
                return False
        return True

    def _take_off(self, laid: Sequence[LaidAlready]) -> None:
        """What is on the work already: works done, the rest of one begun, and the windows after them."""
        of_bay = {(chain.lane.id, chain.bay): chain for chain in self.chains}
        for pot in sorted(laid, key=lambda pot: pot.touch_min):
            chain = of_bay.get((pot.lane, pot.bay))
            if chain is None or chain.done:
                continue
            left = 0.0 if pot.whole else pot.laid_g
            if pot.whole > chain.at:
                chain.left_g = None
                self._past(chain, pot.whole - chain.at)
            while not chain.done and left > 1e-6:
                works = wet_together(chain.works, chain.at)
                rest = laid_of(works) if chain.left_g is None else chain.left_g
                chain.left_g, left = rest - min(rest, left), left - min(rest, left)
                if chain.left_g <= 1e-6 * laid_of(works):
                    chain.left_g = None
                    self._past(chain, len(works))
            mix = self._plain_mix(_on_top(chain), 0.0)
            used = max(0.0, pot.touch_min + mix.contact_min)
            chain.top = Top(mix, pot.touch_min, pot.touch_min, used)
            # The rest of a layer goes beside what is on of it: that need come to nothing first.
            self._wait_on(chain, [(chain.top, "" if chain.left_g is not None else chain.next_waits)])
        for chain in self.chains:
            self._release(chain)

    def _room_at(self, minute: float) -> float:
        return self._warmest(int(minute // HALF_HOUR_MIN))

    def _plain_mix(self, work: Work, minute: float) -> Mix:
        """The mix that a work is laid in, as it leaves the cup at a minute."""
        return self.mix_at(work.use_id, self._room_at(minute))

    def _mix_of(self, works: Sequence[Work], room_c: float) -> Mix:
        """The mix for works in a room, thickened where they are."""
        return self.mix_at(works[0].use_id, room_c).thickened(works[0].handling.way)

    def _size_of(self, works: Sequence[Work], minute: float) -> PotSize:
        return self._sized(works, self._mix_of(works, self._room_at(minute)))

    def _sized(self, works: Sequence[Work], mix: Mix) -> PotSize:
        """The largest pot for works: no more of a paste than the builder wants to mix at once."""
        size, most_g = mix.size_for(rate_of(works), drawn=works[0].handling.drawn), works[0].handling.most_laid_g
        size = smaller(size, min(work.pots_at for work in works))
        if size.spread_g is not None and size.count_for(laid_of(works)) > MOST_LEFT_OVER:
            return replace(size, largest_g=None, limited_by=f"{size.limited_by}, and most of it would be left over")
        if most_g is None or size.largest_g is None:
            return size
        if most_g >= size.most_laid_g:
            return size
        wished = readable_g(max(mixed_for_g(most_g), size.floor_g), size.largest_g, mix.steps)
        spread = most_g / (1 - CUP_LOSS_SHARE)
        return replace(size, largest_g=wished, spread_g=spread, limited_by="your own number of pots")

    def _for_one_pot(self, works: tuple[Work, ...], at: int, minute: float) -> tuple[Work, ...]:
        """The works from one on that a pot serves; a thickened pot serves its own alone."""
        mix = self._mix_of(works[at : at + 1], self._room_at(minute))
        drawn = works[at].handling.drawn
        return works_for_one_pot(works, at, lambda rate: smaller(mix.size_for(rate, drawn=drawn), works[at].pots_at))

    def _turn(self, going: list[Chain]) -> Chain | None:
        """One step on: a layer laid, or the time or a chain moved on to when it can be. The chain it was of, if any."""
        now = self.clock.opening(self.hands_free)
        free = [chain for chain in going if not chain.blocked]
        ready = [chain for chain in free if chain.ready_min <= now + 1e-6]
        if not ready:
            soonest = min(chain.ready_min for chain in free)
            self._wait(self.hands_free, soonest)
            self.hands_free = max(self.clock.opening(soonest), now)
            return None
        self._wait(self.hands_free, now)
        self.hands_free = now
        # Owners come in their order, so that no chain after the first one's own is before it.
        of_first = takewhile(lambda chain: chain.owner_order == ready[0].owner_order, ready)
        chain = min(of_first, key=lambda chain: (chain.turn, chain.round, chain.order))
        group = self._group(chain, now)
        needs = self._needs_min(chain, group, now)
        sooner = self._before_it_closes(chain, ready, now, now + needs)
        if sooner is not chain:
            chain, group = sooner, self._group(sooner, now)
            needs = self._needs_min(chain, group, now)
        if self._on_from(chain, now) > chain.closes_min and not chain.to_mend:
            self._missed(chain)
            return None
        if now + needs > self.clock.closing(now) + 1e-6:
            if needs <= self.clock.day_min or self._began_today(now):
                self._leave_for_tomorrow(chain, now)
                return None
            self.found.too_long.append((chain.lane, group, needs))
        if self._better_begun_tomorrow(chain, now):
            chain.ready_min = self.clock.next_day(now)
            return None
        shut_until = self._shut_until(chain, group, now)
        if shut_until > now:
            chain.ready_min = shut_until
            return None
        self._lay(chain, group, now)
        return chain

    def _shut_until(self, chain: Chain, group: tuple[Work, ...], now: float) -> float:
        """Until when an area is not opened with its coat, since those that are open are covered first and its own window
        would close before its turn; nought where it may be."""
        after = chain.works[chain.at + len(group) :]
        if chain.begun or not group[-1].coat or not after or after[0].waits != "for tack":
            return 0.0
        open_ = [other for other in self.chains if other.lane.id == chain.lane.id and other.begun and not other.done]
        if not open_:
            return 0.0
        busy = sum(self._needs_min(other, (work,), now) for other in open_ for work in other.works[other.at :])
        goes_on = min(other.ready_min for other in open_)
        turn = max(now + self._needs_min(chain, group, now), goes_on) + busy
        closes = self.clocks(self._plain_mix(group[-1], now)).after("window_closes_min", now)
        return goes_on if turn + self._needs_min(chain, after[:1], now) > closes else 0.0

    def _before_it_closes(self, chosen: Chain, ready: list[Chain], now: float, until: float) -> Chain:
        """Another layer in its place, if that would miss its window while this one is laid, until a minute."""
        until = min(until, chosen.closes_min)
        closing = [chain for chain in ready if chain.closes_min <= until]
        for chain in sorted(closing, key=lambda chain: chain.closes_min):
            if chain is chosen:
                break
            if chain.closes_min >= self._on_from(chain, now) and not chain.to_mend:
                return chain
        return chosen

    def _on_from(self, chain: Chain, now: float) -> float:
        """When the first of a pot that is weighed now is on the work."""
        return now + WEIGH_MIN + self._plain_mix(chain.works[chain.at], now).contact_min

    def _group(self, chain: Chain, now: float) -> tuple[Work, ...]:
        """The works the next pots serve, the first of them less what is laid of it already."""
        together = wet_together(chain.works, chain.at)
        if chain.left_g is None:
            group = self._for_one_pot(chain.works, chain.at, now)
            return group if len(group) > len(together) else together
        part = chain.left_g / laid_of(together)
        return tuple(replace(work, laid_g=work.laid_g * part, spread_min=work.spread_min * part) for work in together)

    def _needs_min(self, chain: Chain, group: tuple[Work, ...], now: float) -> float:
        """About how long the works take from now on, mixing and mending with them."""
        rate, laid = rate_of(group), laid_of(group)
        size = self._size_of(group, now)
        if size.largest_g is None:
            return 0.0
        count = size.count_for(laid)
        contact = self._mix_of(group, self._room_at(now)).contact_min
        mixing = WEIGH_MIN + contact
        spreading = laid / rate / (1 - CUP_LOSS_SHARE)
        mending = self._mend_min(chain) + self._edge_min(chain, now)
        if self.mixer_apart:
            # The spreading waits for the mixer where he is the slower.
            return mending + mixing + max(spreading, (count - 1) * mixing + spreading / count)
        return mending + mixing * count + spreading

    def _edge_closed(self, chain: Chain, now: float) -> bool:
        """Whether a bay is begun on the edge of one that has closed."""
        return not chain.begun and chain.beside is not None and self._on_from(chain, now) > chain.beside.closes_min

    def _edge_min(self, chain: Chain, now: float) -> float:
        """How long the edge of the bay before takes to be made good, min."""
        if not self._edge_closed(chain, now):
            return 0.0
        return PEEL_MIN_PER_M2 * known(chain.beside).edge_m2 / self.hands

    def _mend_min(self, chain: Chain) -> float:
        per_m2 = {"": 0.0, "peel ply": PEEL_MIN_PER_M2}.get(chain.to_mend, SAND_MIN_PER_M2)
        return per_m2 * chain.area_m2 / self.hands

    def _began_today(self, now: float) -> bool:
        """Whether some of the shop's day is gone."""
        return self.clock.closing(now) - now < self.clock.day_min - 1e-6

    def _better_begun_tomorrow(self, chain: Chain, now: float) -> bool:
        """Whether a copy is left whole for tomorrow, since what must follow in its window would not fit today."""
        if chain.begun or not self._began_today(now):
            return False
        tomorrow, clocks = self.clock.next_day(now), self.clocks(self._plain_mix(chain.works[chain.at], now))
        # A bay, and what a bag presses, is laid wet on wet: it is not left in its middle, though its window would hold.
        bag = chain.lane.owner.under_bag
        if chain.bay < 1 and not bag and clocks.after("window_closes_min", now) > tomorrow:
            return False
        whole = sum(self._needs_min(chain, (work,), now) for work in chain.works)
        tacks = sum(work.waits == "for tack" for work in chain.works[1:])
        whole += tacks * (clocks.after("tack_min", now) - now)
        whole += bag.bagging_min * chain.lane.shared_by if bag else 0.0
        return now + whole > self.clock.closing(now) and whole <= self.clock.day_min

    def _leave_for_tomorrow(self, chain: Chain, now: float) -> None:
        chain.ready_min = max(chain.ready_min, self.clock.next_day(now))

    def _tell_night(self, beneath: Layer, layer: Layer) -> None:
        """A stop point, where a night lies between a layer and the one beneath it."""
        if self.clock.local(beneath.to_min).date() == self.clock.local(layer.from_min).date():
            return
        words = {
            "": "its window holds until then",
            "peel ply": "its window closes: peel ply on it, pulled off in the morning",
        }.get(layer.mended, "it is washed and sanded in the morning")
        self.found.stops.append((layer.lane, beneath.to_min, layer.from_min, words))

    def _missed(self, chain: Chain) -> None:
        """The window is past: the layer is to be sanded first, or its peel ply pulled."""
        chain.to_mend = "peel ply" if self.peel_ply else self._sanded(chain)
        chain.ready_min = max(chain.ready_min, chain.sandable_min)
        if self.peel_ply and chain.layer is not None:
            self.found.layers[chain.layer] = replace(self.found.layers[chain.layer], peel_ply=True)

    def _sanded(self, chain: Chain) -> str:
        """What a surface that has closed takes: a catalysed resin does not blush, and there is nothing to wash off."""
        blushes = self._plain_mix(_on_top(chain), 0.0).hardener is not None
        return "wash, sand, wipe" if blushes else "sand, wipe with solvent"

    def _lay(self, chain: Chain, group: tuple[Work, ...], now: float) -> None:
        rate, left = rate_of(group), laid_of(group)
        size = self._size_of(group, now)
        if size.largest_g is None:
            self._stick(chain, group, size, self._room_at(now))
            self._past(chain, len(group))
            chain.left_g = None
            return
        mended, mend_min = chain.to_mend, self._mend_min(chain)
        if mended:
            self.found.busy.append(Busy(now, now + mend_min, "pull peel ply, wipe" if mended == "peel ply" else mended))
            self.hands_free = now + mend_min
        edge_peeled = self._pull_edge(chain, now)
        begins = max(now, self.hands_free)
        pots: list[PlannedPot] = []
        while left > 1e-9 and len(pots) <= MOST_POTS:
            pot = self._pot(chain, group, left, rate)
            if pot is None:
                break
            pots.append(pot)
            left -= pot.laid_g
        if not pots:
            # The room is too warm already when the first of it would be weighed.
            self._past(chain, len(group))
            chain.left_g, chain.to_mend = None, ""
            return
        self.found.pots += pots
        self.found.busy.append(Busy(max(begins, pots[0].touch_min - WEIGH_MIN), pots[-1].used_min, "lay up"))
        beneath = None if chain.layer is None else self.found.layers[chain.layer]
        self._past(chain, len(group))
        chain.left_g, chain.to_mend = None, ""
        top = Top(pots[-1].mix, pots[0].touch_min, pots[-1].touch_min, pots[-1].used_min, group[-1].sets)
        self._set_windows(chain, top)
        layer = replace(self._layer(chain, group, pots), mended=mended, edge_peeled=edge_peeled)
        if beneath:
            self._tell_night(beneath, layer)
        elif chain.beside and chain.beside.layer is not None:
            self._tell_night_at_edge(chain.beside, layer)
        chain.layer = len(self.found.layers)
        self.found.layers.append(layer)
        if chain.done:
            self._bag(chain)
            for other in self.chains:
                if chain in other.after:
                    self._release(other)

    def _bag(self, chain: Chain) -> None:
        """Puts the bag on what is laid, where one goes over it."""
        bag = chain.lane.owner.under_bag
        if bag and bag.bagging_min:
            begins = self.hands_free
            self.hands_free += bag.bagging_min * chain.lane.shared_by
            self.found.busy.append(Busy(begins, self.hands_free, "put the bag on"))

    def _layer(self, chain: Chain, group: tuple[Work, ...], pots: Sequence[PlannedPot]) -> Layer:
        """What these pots have laid, with the states it comes to."""
        first, last = pots[0], pots[-1]
        clocks = self.clocks(last.mix)
        opens, closes = _windows(clocks, first.touch_min, last.touch_min, chain.next_waits, group[-1].sets)
        return Layer(
            chain.lane.id,
            group,
            first.on_from_min,
            last.used_min,
            first.number,
            last.number,
            opens,
            closes,
            closes_last_min=clocks.after("window_closes_min", last.touch_min),
            bay=chain.bay,
            area_m2=chain.area_m2,
            tacky_min=clocks.after("tack_min", first.touch_min),
            tacky_last_min=clocks.after("tack_min", last.touch_min),
            sets_min=clocks.after("knife_trim_min", first.touch_min),
            sets_last_min=clocks.after("knife_trim_min", last.touch_min),
        )

    def _pull_edge(self, chain: Chain, now: float) -> bool:
        """Pulls the peel ply off the edge of the bay before, where it has closed; whether there was any."""
        if not self._edge_closed(chain, now):
            return False
        beside = known(chain.beside)
        begins = self.hands_free
        self.hands_free += self._edge_min(chain, now)
        self.found.busy.append(Busy(begins, self.hands_free, "pull peel ply off the edge, wipe"))
        if beside.layer is not None:
            self.found.layers[beside.layer] = replace(self.found.layers[beside.layer], peel_ply=True)
        return True

    def _tell_night_at_edge(self, beside: Chain, layer: Layer) -> None:
        """A stop point at the edge of a bay, where a night lies between it and the next."""
        ended = self.found.layers[known(beside.layer)]
        if self.clock.local(ended.to_min).date() == self.clock.local(layer.from_min).date():
            return
        words = (
            "peel ply on its stepped edge, pulled off before the next" if layer.edge_peeled else "its edge stays open"
        )
        self.found.stops.append((layer.lane, ended.to_min, layer.from_min, f"bay {beside.bay} is whole: {words}"))

    def _pot(self, chain: Chain, group: tuple[Work, ...], left_g: float, rate: float) -> PlannedPot | None:
        """The next pot for what is left, mixed so that it is ready when hands are."""
        # While one pot is drawn in, whoever stands by mixes the next.
        drawn = group[0].handling.drawn
        apart = self.mixer_apart or (drawn and self._draws)
        mixer_free = max(self.mixer_free, self.clock.began(self.hands_free)) if apart else self.hands_free
        weighed = mixer_free + WEIGH_MIN
        room_c = self._room_at(max(weighed, self.hands_free))
        mix = self._mix_of(group, room_c)
        size = self._sized(group, mix)
        if size.largest_g is None:
            # The room warmed since the layer was begun.
            self._stick(chain, group, size, room_c)
            return None
        touch = weighed
        if drawn:
            touch, mix = self._into_the_bucket(chain, group, weighed, mix)
        elif apart:
            touch = max(weighed, self.hands_free - mix.contact_min)
        batch = next_batch(left_g, size, mix.steps, self._strip_g(chain, group))
        pot = PlannedPot(
            number=self.number,
            lane=chain.lane.id,
            owner=chain.lane.owner,
            works=group,
            shared_by=chain.lane.shared_by,
            mass_g=batch.mass_g,
            laid_g=batch.laid_g,
            surplus_g=batch.surplus_g,
            limited_by=batch.limited_by,
            # What is left over, in the cup or because no less can be measured, is not spread.
            spread_g_per_min=rate * batch.mass_g * (1 - CUP_LOSS_SHARE) / batch.laid_g,
            mix=mix,
            touch_min=touch,
            bay=chain.bay,
            bay_words=chain.lane.bay_words(chain.bay),
        )
        self.number += 1
        mixed = touch + self._mix_of(group, room_c).contact_min
        self.mixer_free, self.hands_free, self._draws = mixed, pot.used_min, drawn
        return pot

    def _into_the_bucket(self, chain: Chain, group: tuple[Work, ...], weighed: float, mix: Mix) -> tuple[float, Mix]:
        """When the parts of a pot touch that is drawn out of a bucket, and its mix, which stands there until it is drawn: no
        longer than the pots after it ask for."""
        later = [work.spread_min for work in chain.works[chain.at + 1 :]]
        ahead = stands_min([sum(work.spread_min for work in group), *later], WEIGH_MIN + mix.contact_min)
        soonest = weighed + mix.contact_min
        drawn_from = max(self.hands_free, soonest) if self._draws else soonest + ahead
        ready = max(soonest, drawn_from - ahead)
        return ready - mix.contact_min, replace(mix, contact_min=mix.contact_min + drawn_from - ready)

    def _strip_g(self, chain: Chain, group: tuple[Work, ...]) -> float | None:
        """What one strip of a ply lays, where a pot serves that ply alone and it is laid in strips."""
        work = chain.works[chain.at]
        return work.laid_g / work.strips if len(group) == 1 and work.strips > 1 else None

    def _stick(self, chain: Chain, group: tuple[Work, ...], size: PotSize, room_c: float) -> None:
        """No pot fits these works in so warm a room."""
        self.found.stuck.append((chain.lane.owner, Stuck(group, size, rate_of(group)), self._mix_of(group, room_c)))

    def _past(self, chain: Chain, works: int) -> None:
        for work in chain.works[chain.at : chain.at + works]:
            chain.round += not work.with_next
        chain.at += works

    def _set_windows(self, chain: Chain, top: Top) -> None:
        """What follows waits for the resin that lies on top now, and until it closes."""
        chain.top = top
        self._wait_on(chain, [(top, chain.next_waits)])

    def _release(self, chain: Chain) -> None:
        """What a chain lies on is laid: it waits for that, and until the first of it closes."""
        if chain.begun or not chain.after or any(not other.done for other in chain.after):
            return
        chain.ready_min = max([chain.ready_min, *(other.top.used_min for other in chain.after if other.top)])
        tops = [(other.top, waits or chain.next_waits) for other, waits in chain.lies_on if other.top]
        if tops:
            self._wait_on(chain, tops)

    def _wait_on(self, chain: Chain, tops: Sequence[tuple[Top, Waits]]) -> None:
        chain.closes_min, chain.sandable_min, ready = inf, 0.0, [top.used_min for top, _ in tops]
        for top, waits in tops:
            clocks = self.clocks(top.mix)
            opens, closes = _windows(clocks, top.first_touch, top.last_touch, waits, top.sets)
            sandable = clocks.after("sandable_min", top.last_touch)
            chain.sandable_min = max(chain.sandable_min, sandable)
            if waits in ("for tack", "for the lift"):
                ready.append(opens)
            elif waits == "to set":
                ready += opens, clocks.after("knife_trim_min", top.last_touch)
            elif waits == "to be sanded":
                chain.to_mend, closes = "sand, wipe", inf
                ready.append(sandable)
            chain.closes_min = min(chain.closes_min, closes)
        chain.ready_min = max(ready)

    def _wait(self, from_min: float, to_min: float) -> None:
        """A wait inside the shop's hours is a slot to use."""
        until = min(to_min, self.clock.closing(from_min))
        if until - from_min > 1:
            self.found.busy.append(Busy(from_min, until, "wait", waits=True))
