"""Cost as far as prices are known: exact sums, and never a total with a price missing.

Of `layup.resin_use`, `layup.preparing.cost`.
"""

from unittest import TestCase

from cradle.demo_jobs import skiff
from layup.plan import plan, settled
from tests.core.jobs import at, corner, fabric, jointed, panel, resin


class CostOfAJob(TestCase):
    def test_a_panel_added_up_by_hand(self):
        """Exact arithmetic: 2 m² of mat at 4.00; the resin mixed at 5.00 and its catalyst at 30.00 a kilo."""
        mat = fabric("csm-450").model_copy(update={"price_per_m2": 4.0})
        polyester = resin("polyester-general")
        catalyst = polyester.catalyst.model_copy(update={"price_per_kg": 30.0})
        polyester = polyester.model_copy(update={"price_per_kg": 5.0, "catalyst": catalyst})
        job = panel("polyester-general", "csm-450")
        materials = job.materials.model_copy(update={"fabrics": (mat,), "resins": (polyester,)})
        answer = plan(job.model_copy(update={"materials": materials}), at(20))
        mixed_kg = answer.resins[0].use.mixed_g / 1000
        by_hand = 2 * 4 + mixed_kg * 5 + mixed_kg * answer.resins[0].chemistry.dose.catalyst_pct / 100 * 30
        self.assertAlmostEqual(answer.cost.total, by_hand, 9)

    def test_a_missing_price_leaves_no_total_and_is_named(self):
        cost = plan(panel("epoxy-2-1", "cloth-300"), at(20)).cost
        self.assertIsNone(cost.total)
        self.assertIn("300 cloth, twill", cost.unpriced)

    def test_the_filler_of_each_copy_of_a_joint_is_paid(self):
        """exact: what is stirred into two corners costs twice what one takes, 10.00 a kilo of it."""
        prices = []
        for count in (1, 2):
            job = jointed(corner(count=count), fillers=("wood-flour",))
            flour = job.materials.fillers[0].model_copy(update={"price_per_kg": 10.0})
            materials = job.materials.model_copy(update={"fillers": (flour,)})
            job = job.model_copy(update={"materials": materials})
            lines = {line.name: line.cost for line in plan(job, at(20)).cost.lines}
            (paste,) = [planned.paste for planned in settled(job, at(20)).draft.found["joints"]]
            grams = sum(paste.grams(part) for part in paste.recipe)
            self.assertAlmostEqual(lines[flour.name], 10 * count * grams / 1000, 9)
            prices.append(lines[flour.name])
        self.assertAlmostEqual(prices[1], 2 * prices[0], 9)

    def test_the_demo_skiff_is_priced_throughout(self):
        cost = plan(skiff(), at(19)).cost
        self.assertEqual((cost.unpriced, cost.total), ((), cost.known))
