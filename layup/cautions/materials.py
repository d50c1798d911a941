"""What goes with what."""

from collections.abc import Iterator

from layup.cautions.rule import Facts, Finding, Rule


def _mat_binder_with_epoxy(facts: Facts) -> Iterator[Finding]:
    if facts.resin.family != "epoxy":
        return
    seen = set()
    for path, _part, fabric in facts.plies:
        if fabric.epoxy_ok or fabric.id in seen or fabric.binder not in ("emulsion", "powder"):
            continue
        seen.add(fabric.id)
        if fabric.binder == "emulsion":
            yield Finding(path, f"{fabric.name} is held by an emulsion binder that epoxy does not dissolve")
        else:
            yield Finding(path, f"{fabric.name} is powder bound: epoxy may not take its binder", "care")


RULES = (
    Rule(
        id="materials.mat_binder_with_epoxy",
        severity="stop",
        step="stack",
        reason="The binder of ordinary mat dissolves in styrene. In epoxy it stays stiff and the mat stays dry.",
        do="Take a stitched fabric, or mat whose maker names epoxy. Powder bound: wet a test square, which should go "
        "clear within 10 min.",
        source="common practice",
        find=_mat_binder_with_epoxy,
    ),
)
