"""What pots in real cups live and come to, and how much may lie wet at once: tables to be read beside the bench."""

from layup.chemistry.gel_law import CATALYSED_ACTIVATION_KJ_PER_MOL, GelLaw
from layup.chemistry.label import hardener_label
from layup.equipment import usual_width_mm
from layup.heat.conduction import cup, simulate
from layup.heat.cure_kinetics import EPOXY_GLASS
from layup.heat.heat_fit import StatedPot, fitted_cure
from layup.heat.pot_heat import full_heat
from layup.heat.wet_limit import wet_limits
from layup.library import generic
from layup.plan import plan, settled
from tests.core.jobs import at, panel

CUPS = ((15, 250), (50, 250), (100, 250), (100, 500), (200, 500), (540, 1500))
ROOMS_C = (20, 27)
# What the generic hardeners were stated as before, all of it to gel, in a cup as deep as the pot is wide.
BEFORE_GEL_MIN = {"fast": 10, "medium": 20, "slow": 40}
# One trial of six US fluid ounces at 80 °F, in a 12 ounce cup: when each was given up, min.
TRIAL_MIN = {"fast": "5", "medium": "10", "slow": "20 to 22"}
TRIAL_G, TRIAL_C, TRIAL_CUP_ML = 6 * 29.5735 * 1.10, (80 - 32) / 1.8, 355


def main() -> None:
    medium = generic().resins[0].hardeners[1]
    label, before = hardener_label(medium), fitted_cure(StatedPot(BEFORE_GEL_MIN["medium"], 25, 100))
    assert label.heat.cure.glass is EPOXY_GLASS
    print("Twelve cups of the medium hardener: workable and gel, min; peak if forgotten, °C; before, gel and peak:")
    for room_c in ROOMS_C:
        for mass_g, cup_ml in CUPS:
            wide = usual_width_mm(cup_ml)
            peak = simulate(cup(mass_g, wide), label.heat.cure, room_c, until="peak").peak_c
            old = simulate(cup(mass_g), before, room_c, until="peak")
            print(
                f"  {mass_g:4d} g in {cup_ml:4d} ml at {room_c} °C: {label.workable_min(mass_g, room_c, wide):5.1f}"
                f" {label.gel_min(mass_g, room_c, wide):5.1f} min {peak:4.0f} °C;"
                f" before {old.gel_min:5.1f} min {old.peak_c:4.0f} °C"
            )
    print("Six US fluid ounces at 80 °F, workable by the plan and given up in the trial, min; before, to gel:")
    for hardener in generic().resins[0].hardeners[:3]:
        workable = hardener_label(hardener).workable_min(TRIAL_G, TRIAL_C, usual_width_mm(TRIAL_CUP_ML))
        gel = full_heat(StatedPot(BEFORE_GEL_MIN[hardener.name], 25, 100)).gel_min(TRIAL_G, TRIAL_C)
        print(f"  {hardener.name}: {workable:.1f}, {TRIAL_MIN[hardener.name]}; before {gel:.1f}")
    print("Mat and 1 % at once, mm to 60 °C: open, and under a 10 mm foam core; on foam:")
    law = GelLaw(30, 20, CATALYSED_ACTIVATION_KJ_PER_MOL, 1.0, 1.0)
    for room_c in (15, 20, 25, 30):
        under = _limits(room_c, *["csm-450"] * 8, "foam-10")[0]
        on_foam = _limits(room_c, "foam-10", *["csm-450"] * 8)[1]
        print(
            f"  {room_c} °C, gel {law.gel_min(room_c):.0f} min at 1 %:"
            f" {under.open_mm:.1f}, {under.covered_mm:.1f}; {on_foam.open_mm:.1f}"
        )


def _limits(room_c: float, *stack: str):
    job = panel("polyester-general", *stack)
    facts = at(room_c)
    return wet_limits(plan(job, facts).parts[0], settled(job, facts).mixes["resin"], room_c)
