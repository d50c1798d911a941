"""What a shop learns from its bench: the gels it logged, the filler its pastes took."""

from dataclasses import replace
from math import log
from typing import TypeVar

from django.utils import timezone
from pydantic import ValidationError

from cradle.bench.models import Event, Run
from cradle.shops.models import Gel, Shot, Stirred
from layup.bench.heard import PotHeard
from layup.bench.now import BenchState
from layup.joints.filler_log import parts_found, thickened_share
from layup.pots.outcome import PotResult
from layup.pots.pot_log import PotHistory

Row = TypeVar("Row", Gel, Shot, Stirred)


# memory: a pot that was listened to for less than this share of its life tells nothing of its gel
_HEARD_ENOUGH = 0.3
# A band of nine in ten is so many deviations wide.
_BAND_DEVIATIONS = 2 * 1.645


def learn_heard(run: Run, event: Event, planned: PotResult, history: PotHistory, heard: PotHeard) -> Gel | None:
    """Keep when a pot that was dumped would have gelled, by its surface: one observation with its band."""
    life_min, age_min = heard.gels_min - heard.touched_min, heard.read_min - heard.touched_min
    if age_min < _HEARD_ENOUGH * life_min:
        return None
    low_min, high_min = heard.gels_low_min - heard.touched_min, heard.gels_high_min - heard.touched_min
    spread = log(high_min / low_min) / _BAND_DEVIATIONS
    return learn_gel(run, event, planned, replace(history, gelled_in_min=life_min), spread)


def learn_gel(run: Run, event: Event, planned: PotResult, history: PotHistory, spread: float = 0.0) -> Gel | None:
    """Keep a gel for the law to learn from; `spread` is the deviation of its ln where it was heard and not seen.

    None for a pot that tells nothing of the label: off its ratio, blended, gelled out of its cup, or written down as
    gelled in a time that no pot gels in, such as both buttons pressed at once.
    """
    spec, answer = run.spec, run.issued
    use = spec.use_of(planned.use_id)
    resin = spec.product_of(use)
    off_pct = history.ratio_error_pct
    if use.blend_id or (off_pct is not None and abs(off_pct) > resin.ratio_tolerance_pct):
        return None
    elsewhere = planned.ticket.thickened or spec.pots.vessel != "cup"
    if not history.gelled_in_min or resin.one_part or (resin.two_part and elsewhere):
        return None
    chemistry = answer.resin_of(planned.use_id).chemistry
    gel = Gel(
        shop=run.job.shop,
        tap_id=event.tap_id,
        gelled_at=event.happened_at,
        resin_id=resin.id,
        hardener_id=chemistry.chosen_id,
        minutes=history.gelled_in_min,
        temperature_c=answer.conditions.room_c if planned.room_c is None else planned.room_c,
        mass_g=planned.mass_g,
        spread=spread,
        cup_mm=run.facts.cup_width_mm,
        catalyst_pct=planned.catalyst_pct or (chemistry.dose.catalyst_pct if chemistry.dose else None),
    )
    return _kept(gel)


def learn_filler(run: Run, event: Event, planned: PotResult, made_a_g: float | None) -> Stirred | None:
    """Keep what a filler took for its consistency, of the resin that was really poured.

    None for a mix of two, which does not say which took it, and for a pot that was made too unlike its ticket.
    """
    ticket, thickened = planned.ticket, planned.ticket.thickened
    if len(thickened.fillers) != 1:
        return None
    row, made = thickened.fillers[0], 1.0
    if ticket.total_g and made_a_g:
        made = thickened_share(ticket.total_g, thickened.aside_g, ticket.first_part.grams, made_a_g)
    parts = parts_found(row.parts, event.data["loose_ml"] / row.loose_ml, made)
    if parts is None:
        return None
    return _kept(
        Stirred(
            shop=run.job.shop,
            tap_id=event.tap_id,
            stirred_at=event.happened_at,
            filler_id=row.filler_id,
            consistency=thickened.consistency,
            parts=parts,
        )
    )


def learn_shot(run: Run, flow_id: str, state: BenchState) -> None:
    """Keep how open a bed was by the last mark its front was seen at, against what is told of it from memory; or drop what was
    kept of it, where that was taken back."""
    Shot.objects.filter(run_id=run.pk, flow_id=flow_id).delete()
    for card, flow in zip(state.card.flows, state.flows, strict=True):
        planned = next((told for told in run.issued.infusions if told.id == card.part_id), None)
        if card.id != flow_id or flow.pace is None or planned is None or not planned.by_memory_m2:
            continue
        shot = Shot(
            shop=run.job.shop,
            seen_at=timezone.now(),
            run_id=run.pk,
            flow_id=flow_id,
            bed=planned.bed_name,
            pull_mbar=planned.pull_mbar,
            times=flow.pace * card.permeability_m2 / planned.by_memory_m2,
        )
        _kept(shot)


def _kept(row: Row) -> Row | None:
    """The row, kept where the core can learn from it."""
    try:
        row.fact()
    except ValidationError:
        return None
    row.save()
    return row
