"""The joints on paper: each corner to scale, what it takes, and its steps in order."""

from collections.abc import Sequence

from reportlab.platypus import Flowable

from layup.job import Joint
from layup.joints.corner_picture import corner_drawn, is_drawn
from layup.joints.outcome import JointResult
from layup.paper.kit import TICK_WIDE, Masthead, drawn, gap, grid, heading, printed, title, words
from layup.words import begun


def joints_pdf(head: Masthead, joints: Sequence[Joint], results: Sequence[JointResult]) -> bytes:
    """Each joint with its corner, its paste and strips, and the order of its steps with boxes to tick.

    >>> from datetime import date
    >>> joints_pdf(Masthead("Deck", 1, date(2026, 5, 4)), (), ())[:5]
    b'%PDF-'
    """
    story, known = [title(f"{head.job_name}: joints")], {result.id: result for result in results}
    for joint in joints:
        result = known.get(joint.id)
        name = f"{joint.name or 'Joint'}{f', {joint.count} alike' if joint.count > 1 else ''}"
        told = [words("It is not worked out yet: its measures are not whole.")] if result is None else []
        story += [heading(name), *told, *(_joint(head, joint, result) if result else ()), gap(10)]
    return printed(head, "joints", story)


def _joint(head: Masthead, joint: Joint, result: JointResult) -> list[Flowable]:
    mass = head.scales.words
    takes = [f"resin in all {mass('mass', result.all_resin_g)}"]
    if result.paste_ml:
        takes.append(f"paste {mass('volume', result.paste_ml)} ({mass('mass', result.paste_g)})")
    takes += [f"{filler.name.lower()} {mass('volume', filler.loose_ml)} loose" for filler in result.fillers]
    if result.run_m:
        takes.append(f"along {mass('length', result.run_m)}")
    rows = [(step.words, mass("mass", step.resin_g) if step.resin_g else "", step.when) for step in result.steps]
    widths = (180, 70, head.room[0] - TICK_WIDE - 250)
    return [
        words(begun(", ".join(takes)), after=6, kept=True),
        *([drawn(corner_drawn(joint, result, head.scales), head), gap(6)] if is_drawn(joint) else []),
        *([grid(("step", "resin", "when"), rows, widths)] if rows else []),
    ]
