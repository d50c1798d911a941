"""How a learner stands in a shop: what he tried, what was signed, the pots he mixed in real runs."""

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import QuerySet

from cradle.bench.models import Run
from cradle.bench.running import state_of
from cradle.shops.models import Membership, Shop
from cradle.training.models import Attempt, SignOff
from layup.shop_facts import Learner
from layup.training.record import POURING, Standing, good_in_a_row, standing, times_larger

# Of a learner so many of his last tries and pots are read.
_MOST_TRIES, _MOST_POTS = 2000, 60
_RUNS_AT_A_TIME = 8
_MIXED = ("touched", "B in")


def learning(shop: Shop) -> QuerySet[Membership]:
    """Those who learn in a shop, by their names."""
    return shop.memberships.filter(learns=True).select_related("person").order_by("person__username")


def standing_of(shop: Shop, person: AbstractBaseUser) -> Standing:
    """A person's record in a shop."""
    tries = Attempt.objects.filter(shop=shop, person=person).order_by("-at", "-id")[:_MOST_TRIES]
    signed = SignOff.objects.filter(shop=shop, person=person).select_related("by")
    return standing([each.fact() for each in reversed(tries)], [each.fact() for each in signed], pots_of(shop, person))


def learners_of(shop: Shop) -> tuple[Learner, ...]:
    """The shop's learners as plans ask for them."""
    signed = set(SignOff.objects.filter(shop=shop, task=POURING).values_list("person_id", flat=True))
    return tuple(
        Learner(
            name=member.person.get_username(),
            times=times_larger(
                signed_for_pouring=member.person_id in signed,
                good_in_a_row=good_in_a_row(pots_of(shop, member.person)) if member.person_id in signed else 0,
            ),
        )
        for member in learning(shop)
    )


def pots_of(shop: Shop, person: AbstractBaseUser) -> list[bool]:
    """The last pots that a person mixed in real runs and that have ended, in their order: used up on their ratio, or lost."""
    mixed = Run.objects.filter(
        job__shop=shop, simulated=False, events__by=person, events__kind__in=_MIXED, card__isnull=False
    )
    runs = Run.objects.with_events().filter(pk__in=mixed.values("pk")).order_by("-started_at")
    told: list[bool] = []
    # From the last run backwards, some at a time, until there are enough.
    for run in runs.iterator(chunk_size=_RUNS_AT_A_TIME):
        his = {int(each.subject) for each in run.standing() if each.by_id == person.pk and each.kind in _MIXED}
        ended = [pot for pot in state_of(run).pots if pot.number in his and pot.ended_min is not None]
        ended.sort(key=lambda pot: pot.touched_min or 0.0)
        told = [pot.state == "used up" and pot.on_ratio for pot in ended] + told
        if len(told) >= _MOST_POTS:
            break
    return told
