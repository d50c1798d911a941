"""Choosing a hardener: bands, edges, gaps, one step slower, never two. Bands: common practice."""

from unittest import TestCase

from layup.chemistry.hardeners import choose_hardener
from layup.errors import OutOfRange
from layup.units import convert
from tests.core.jobs import resin

FOUR = resin("epoxy-2-1").hardeners


def f(fahrenheit: float) -> float:
    return convert(fahrenheit, "°F", "°C")


class Choosing(TestCase):
    def test_near_an_edge_the_neighbours_own_figures_are_told(self):
        """exact: the life each sheet states, carried to this room, and the hours until each sands."""
        told = 0
        for edge_c in (edge for row in choose_hardener(FOUR, 20).rows for edge in row.band_c):
            verdict = choose_hardener(FOUR, edge_c - 0.4)
            _, near, neighbour = verdict.reason.partition("Near the edge, ")
            if not near:
                continue
            chosen = verdict.chosen
            other = next(row for row in verdict.rows if f": {row.hardener.name} would give" in neighbour)
            self.assertNotEqual(other, chosen)
            mass_g = other.hardener.pot_life_mass_g
            self.assertIn(
                f"would give {other.stated_pot_life_min:.0f} min of a {mass_g:g} g pot in place of "
                f"{chosen.stated_pot_life_min:.0f}, and sand after {other.clocks.sandable_min / 60:.0f} h in place of "
                f"{chosen.clocks.sandable_min / 60:.0f}",
                neighbour,
            )
            told += 1
        self.assertGreaterEqual(told, 3)

    def name(self, *args, **kwargs) -> str:
        return choose_hardener(FOUR, *args, **kwargs).chosen.hardener.name

    def test_each_band_has_its_hardener(self):
        self.assertEqual([self.name(f(t)) for t in (50, 65, 75, 90)], ["fast", "medium", "slow", "extra slow"])

    def test_at_an_edge_both_are_named_and_the_slower_is_taken(self):
        verdict = choose_hardener(FOUR, f(70))
        self.assertEqual(verdict.chosen.hardener.name, "slow")
        self.assertIn("medium and slow both hold", verdict.reason)
        medium = next(row for row in verdict.rows if row.hardener.name == "medium")
        self.assertEqual(medium.steps_off, 0)

    def test_under_the_lowest_band_nothing_is_recommended(self):
        verdict = choose_hardener(FOUR, f(44))
        self.assertIsNone(verdict.chosen)
        self.assertIn("7.2 °C", verdict.sentence)

    def test_over_the_highest_band_the_slowest_with_its_cost(self):
        verdict = choose_hardener(FOUR, f(100))
        self.assertEqual(verdict.chosen.hardener.name, "extra slow")
        self.assertIn("pots must be smaller", verdict.reason)

    def test_in_a_gap_the_nearer_band(self):
        gapped = [FOUR[0], FOUR[2]]
        near_fast, near_slow = (choose_hardener(gapped, f(t)).chosen.hardener.name for t in (62, 68))
        self.assertEqual((near_fast, near_slow), ("fast", "slow"))
        self.assertEqual(choose_hardener(gapped, f(65)).chosen.hardener.name, "fast")

    def test_one_step_slower_only_while_it_cures_in_time(self):
        self.assertEqual(self.name(f(65), "one step slower"), "slow")
        in_a_hurry = choose_hardener(FOUR, f(65), "one step slower", deadline_h=14)
        self.assertEqual(in_a_hurry.chosen.hardener.name, "medium")
        self.assertIn("14 h are given", in_a_hurry.reason)

    def test_every_loser_says_why_and_two_steps_is_refused(self):
        rows = {row.hardener.name: row for row in choose_hardener(FOUR, f(55)).rows}
        self.assertEqual([rows[n].steps_off for n in ("fast", "medium", "slow", "extra slow")], [0, 1, 2, 3])
        self.assertIn("may not be set after a day", rows["slow"].reason)
        self.assertTrue(all(row.reason for row in rows.values()))

    def test_the_builders_own_choice_is_kept_with_the_plans_beside_it(self):
        verdict = choose_hardener(FOUR, f(65), pinned_id=FOUR[3].id)
        self.assertEqual(verdict.chosen.hardener.name, "extra slow")
        self.assertIn("the plan would take medium", verdict.reason)

    def test_another_family_is_refused(self):
        with self.assertRaises(OutOfRange):
            choose_hardener(FOUR, 20, pinned_id="epoxy-5-1-medium")
