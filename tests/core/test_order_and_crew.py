"""In which order things are laid, and by whom: circles refused, people with tasks, who does what through the day."""

from itertools import pairwise
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog

from layup.day.best_start import levers
from layup.job import JobSpec, Person, PotWishes
from layup.laminate.ground import REACHED
from layup.order import in_order
from layup.plan import laid_out, plan, settled
from layup.pots.crew import SPREADING, pace_of, team_of
from layup.pots.sizing import LARGEST_LEARNER_POT_G
from layup.pots.work import LiesOn, Owner
from tests.core.jobs import at, corner, jointed, on, panel, wishing

EVERY = ("mixes", "wets", "lays", "rolls")


def two_parts(**second) -> JobSpec:
    """Two panels, of which the second is changed."""
    job = panel("epoxy-2-1", "cloth-300").model_dump(mode="json")
    other = job["parts"][0] | {"id": "q", "name": "Second", "plies": [{"id": "q1", "fabric_id": "cloth-300"}]}
    return JobSpec.model_validate(job | {"parts": [job["parts"][0], other | second]})


def order_of(job: JobSpec, room_c: float = 20) -> list[str]:
    return list(dict.fromkeys(layer.lane for layer in plan(job, at(room_c)).run_sheet.layers))


class Order(TestCase):
    def test_as_written_unless_the_job_says_otherwise(self):
        self.assertEqual(order_of(two_parts()), ["p", "q"])
        first = on(two_parts(), comes_after=["q"])
        self.assertEqual(order_of(first), ["q", "p"])
        # What comes after waits until all of the other is on, though hands are free before that.
        schedule = laid_out(settled(first, at(20))).schedule
        ended = max(layer.to_min for layer in schedule.layers if layer.lane == "q")
        self.assertGreaterEqual(min(layer.from_min for layer in schedule.layers if layer.lane == "p"), ended)

    def test_faces_that_will_be_hidden_come_before_what_hides_them(self):
        self.assertEqual(order_of(two_parts(ground={"hidden_faces": "under the thwart"})), ["q", "p"])

    def test_what_is_tied_comes_after_its_fillet_and_before_the_rest(self):
        """exact: each after what it waits for, and else as early as it stands."""

        def owner(name: str, *before: str) -> Owner:
            return Owner(name, name, 1, (), lies_on=tuple(LiesOn(each) for each in before))

        laid = in_order([owner("a"), owner("b", "d"), owner("c"), owner("d", "e"), owner("e")])
        self.assertEqual([each.id for each in laid], ["a", "e", "d", "b", "c"])

    @settings(max_examples=60, deadline=None)
    @given(st.integers(1, 9).flatmap(lambda n: st.lists(st.tuples(st.integers(0, n), st.integers(0, n)), max_size=12)))
    def test_any_order_without_a_circle_is_kept(self, pairs):
        owners = [
            Owner(f"{n}", f"{n}", 1, (), comes_after=tuple(f"{low}" for low, high in pairs if high == n and low < high))
            for n in range(10)
        ]
        places = {owner.id: at for at, owner in enumerate(in_order(owners[::-1]))}
        self.assertEqual(len(places), 10)
        for owner in owners:
            self.assertTrue(all(places[each] < places[owner.id] for each in owner.comes_after))

    def test_a_circle_is_refused_in_words_at_its_field_and_the_rest_is_planned(self):
        circle = on(two_parts(comes_after=["p"]), comes_after=["q"])
        answer = plan(circle, at(20))
        (problem,) = answer.problems
        self.assertEqual(problem.path, "parts.0.comes_after")
        self.assertEqual(
            problem.message,
            "each of these is to come after the next: Panel, Second, Panel. Take one of them out",
        )
        self.assertTrue(problem.wrong)
        self.assertTrue(answer.pot_count)
        covered = jointed(corner(covered_by="p", comes_after=["p"])).model_dump(mode="json")
        parts = panel("epoxy-2-1", "cloth-300").model_dump(mode="json")
        covered |= {
            "parts": parts["parts"],
            "materials": covered["materials"] | {"fabrics": parts["materials"]["fabrics"]},
        }
        (tied,) = [each for each in plan(JobSpec.model_validate(covered), at(20)).problems if each.wrong]
        self.assertIn("each of these is to come after the next", tied.message)

    def test_a_surface_that_is_hard_to_reach_takes_longer(self):
        """memory: 1.25 times as long leaning over, 1.5 from a ladder."""
        spread = [
            sum(
                work.spread_min
                for work in settled(on(panel("epoxy-2-1", "cloth-300"), reach=reach), at(20)).owners[0].works
            )
            for reach in REACHED
        ]
        self.assertEqual([round(each / spread[0], 6) for each in spread], [1.0, 1.25, 1.5])


class Crew(TestCase):
    @settings(max_examples=80, deadline=None)
    @given(st.lists(st.sets(st.sampled_from(EVERY), min_size=1), min_size=1, max_size=6))
    def test_the_pace_is_what_an_optimum_of_another_library_shares_out(self, crew):
        """reference library: the most work shared out among people by their tasks, a linear programme of SciPy."""
        people = [
            Person(id=f"{n}", tasks=tuple(task for task in EVERY if task in tasks)) for n, tasks in enumerate(crew)
        ]
        tasks = list(SPREADING)
        # Variables: how much of each person's time goes to each task, and the pace.
        count = len(people) * len(tasks)
        bounds = [(0, 1 if task in person.tasks else 0) for person in people for task in tasks] + [(0, None)]
        whole = np.zeros((len(people), count + 1))
        for n in range(len(people)):
            whole[n, n * len(tasks) : (n + 1) * len(tasks)] = 1
        done = np.zeros((len(tasks), count + 1))
        for n, task in enumerate(tasks):
            done[n, n : count : len(tasks)] = -1
            done[n, -1] = SPREADING[task]
        best = linprog(
            [*np.zeros(count), -1],
            A_ub=np.vstack([whole, done]),
            b_ub=[*np.ones(len(people)), *np.zeros(len(tasks))],
            bounds=bounds,
        )
        self.assertAlmostEqual(pace_of(people), -best.fun, places=6)

    def test_of_three_and_more_one_mixes_for_the_rest(self):
        paces = [
            (team_of(PotWishes(hands=hands)).hands, team_of(PotWishes(hands=hands)).mixer_apart)
            for hands in range(1, 5)
        ]
        self.assertEqual(paces, [(1, False), (2, False), (2, True), (3, True)])
        # Whoever is missed least by the rest.
        crew = (Person(id="a"), Person(id="b", tasks=("mixes", "wets")), Person(id="c"))
        (mixer,) = [person for person in team_of(PotWishes(crew=crew)).people if person.tasks == ("mixes",)]
        self.assertEqual(mixer.id, "b")

    def test_a_task_that_nobody_does_is_said_with_the_way_out(self):
        job = wishing(panel("epoxy-2-1", "cloth-300"), crew=(Person(id="a", tasks=("mixes", "wets")),))
        answer = plan(job, at(20))
        (problem,) = answer.problems
        self.assertEqual(
            (problem.path, problem.message), ("pots.crew", "nobody lays and rolls: give that to somebody of the crew")
        )

    def test_a_learner_mixes_small_pots_and_not_alone_where_the_shop_says_so(self):
        crew = (Person(id="a", tasks=("mixes",), learner=True), Person(id="b", tasks=EVERY[1:]))
        job = wishing(panel("epoxy-2-1", "cloth-300", width_m=2), crew=crew)
        answer = plan(job, at(20))
        self.assertEqual(answer.problems, ())
        self.assertLessEqual(max(pot.mass_g for pot in answer.pots), LARGEST_LEARNER_POT_G["epoxy"])
        practised = wishing(job, crew=(crew[0].model_copy(update={"learner": False}), crew[1]))
        self.assertGreater(max(pot.mass_g for pot in plan(practised, at(20)).pots), LARGEST_LEARNER_POT_G["epoxy"])
        never = job.model_copy(update={"practice": job.practice.model_copy(update={"learners": "never mix alone"})})
        (problem,) = plan(never, at(20)).problems
        self.assertEqual(problem.path, "pots.crew")
        self.assertIn("a learner never mixes alone", problem.message)
        beside = wishing(never, crew=(*crew, Person(id="c", tasks=("mixes",))))
        self.assertEqual(plan(beside, at(20)).problems, ())

    def test_who_does_what_is_told_and_nobody_is_at_two_pots(self):
        crew = (Person(id="a", name="Wren", tasks=("mixes",)), Person(id="b"), Person(id="c", tasks=("rolls",)))
        sheet = plan(wishing(panel("epoxy-2-1", "cloth-300", "cloth-300", width_m=2), crew=crew), at(20)).run_sheet
        mixing = [task for task in sheet.tasks if task.task == "mixes"]
        self.assertEqual([(task.name, task.first_pot) for task in mixing], [("Wren", pot.number) for pot in sheet.pots])
        for one, other in pairwise(mixing):
            self.assertLessEqual(one.to_min, other.from_min + 0.02)
        rolled = {task.words for task in sheet.tasks if task.who == "c"}
        self.assertEqual(rolled, {"1: rolls", "2: rolls"})
        self.assertEqual(
            {task.words for task in sheet.tasks if task.who == "b"}, {"1: wets, lays, rolls", "2: wets, lays, rolls"}
        )
        self.assertEqual(plan(wishing(panel("epoxy-2-1", "cloth-300"), hands=1), at(20)).run_sheet.tasks, ())

    def test_the_levers_tell_which_extra_person_helps_most(self):
        crew = (Person(id="a", tasks=("mixes", "wets", "lays")), Person(id="b", tasks=("rolls",)))
        job = wishing(panel("epoxy-2-1", *["cloth-300"] * 3, width_m=2.4, length_m=4), crew=crew)
        tried = {lever.name: lever for lever in levers(job, at(20))}
        ends = {
            name: tried[f"One more who {name}"].laid_by_min for name in ("mixes", "wets", "lays", "rolls", "does all")
        }
        now = max(layer.to_min for layer in plan(job, at(20)).run_sheet.layers)
        self.assertLess(ends["mixes"], now - 30)
        self.assertEqual(min(ends, key=ends.__getitem__), "does all" if ends["does all"] < ends["mixes"] else "mixes")
        self.assertEqual(len(tried["One more who rolls"].pots["crew"]), 3)
        self.assertIn("Closing", tried)
