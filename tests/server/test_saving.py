"""Saving together: edits of two people merge, the same field asks, revisions are shared by the minute and fixed for good."""

from datetime import timedelta
from unittest.mock import patch

from django.contrib.auth.models import User
from django.db import transaction
from django.test import Client
from django.utils import timezone

from cradle.beside.written import plan_written
from cradle.jobs.models import JobRevision
from cradle.jobs.saving import _append
from cradle.shops.models import Membership
from tests.server.people import TwoShops


class Together(TwoShops):
    def setUp(self):
        super().setUp()
        mate = User.objects.create_user("tern", password="a-long-test-word")
        Membership.objects.create(shop=self.shop, person=mate)
        self.mate = Client()
        self.mate.force_login(mate)
        self.base = self.get(f"/api/jobs/{self.job.pk}")[1]["document"]

    def save(self, base, client=None, **changes):
        body = {"base": base, "document": base | changes}
        return self.send("put", f"/api/jobs/{self.job.pk}", body, client)

    def numbers(self) -> list[int]:
        return list(self.job.revisions.order_by("number").values_list("number", flat=True))

    def test_different_fields_of_two_people_are_both_kept(self):
        self.save(self.base, self.mate, name="Skiff of the mate")
        status, answer = self.save(self.base, pots=self.base["pots"] | {"hands": 3})
        self.assertEqual(status, 200)
        self.assertEqual((answer["document"]["name"], answer["document"]["pots"]["hands"]), ("Skiff of the mate", 3))

    def test_the_same_field_asks_and_saves_nothing(self):
        self.save(self.base, self.mate, name="Theirs")
        status, answer = self.save(self.base, name="Mine")
        self.assertEqual((status, answer["saved_by"]), (409, "tern"))
        conflict = answer["conflicts"][0]
        self.assertEqual((conflict["path"], conflict["mine"], conflict["theirs"]), ("name", "Mine", "Theirs"))
        self.assertEqual(answer["merged"]["name"], "Mine")
        self.assertEqual(self.get(f"/api/jobs/{self.job.pk}")[1]["document"]["name"], "Theirs")
        # The answer is a base to go on from.
        self.assertEqual(self.save(answer["latest"], name="Mine")[0], 200)

    def test_two_edits_that_are_not_sound_together_are_refused_in_words(self):
        part = self.base["parts"][0]

        def with_plies(part_id: str, count: int) -> list:
            plies = [part["plies"][0] | {"id": f"{part_id}{n}"} for n in range(count)]
            return [*self.base["parts"], part | {"id": part_id, "plies": plies}]

        self.assertEqual(self.save(self.base, self.mate, parts=with_plies("t", 248))[0], 200)
        status, answer = self.save(self.base, parts=with_plies("m", 250))
        self.assertEqual(status, 422)
        self.assertIn("500 plies at most", answer["problems"][0]["message"])

    def test_edits_of_one_person_within_a_minute_share_a_revision(self):
        first = self.save(self.base, name="One")[1]
        second = self.save(first["document"], name="Two")[1]
        self.assertEqual((first["revision"], second["revision"], self.numbers()), (2, 2, [1, 2]))
        later = timezone.now() + timedelta(seconds=61)
        with patch("cradle.jobs.saving.timezone.now", return_value=later):
            third = self.save(second["document"], name="Three")[1]
        self.assertEqual(third["revision"], 3)

    def test_a_clock_that_was_set_back_folds_no_saves_together(self):
        self.save(self.base, name="One")
        earlier = timezone.now() - timedelta(hours=2)
        with patch("cradle.jobs.saving.timezone.now", return_value=earlier):
            self.assertEqual(self.save(self.base | {"name": "One"}, name="Two")[1]["revision"], 3)

    def test_a_save_that_says_what_it_was_made_from_is_merged_against_that(self):
        def save(document, made_from, base, client=None):
            body = {"base": base, "document": document, "made_from": made_from}
            return self.send("put", f"/api/jobs/{self.job.pk}", body, client)

        first = {"revision": 1, "edit": 0}
        theirs = save(self.base | {"name": "Theirs"}, first, self.base, self.mate)[1]
        self.assertEqual((theirs["revision"], theirs["edit"]), (2, 0))
        # The base that is sent says that nothing was changed: the revision knows better, and both edits stand.
        mine = self.base | {"pots": self.base["pots"] | {"hands": 3}}
        status, answer = save(mine, first, mine)
        self.assertEqual((status, answer["document"]["name"], answer["document"]["pots"]["hands"]), (200, "Theirs", 3))
        # One that was saved again within its minute is another: what is sent is the base then.
        again = save(answer["document"] | {"name": "Mine"}, {"revision": 3, "edit": 0}, answer["document"])[1]
        self.assertEqual((again["revision"], again["edit"]), (3, 1))
        stale = answer["document"] | {"pots": self.base["pots"]}
        kept = save(stale, {"revision": 3, "edit": 0}, answer["document"])[1]["document"]
        self.assertEqual((kept["name"], kept["pots"]["hands"]), ("Mine", self.base["pots"]["hands"]))

    def overtaken(self, times: int):
        """Somebody else saves while this is planned, so many times."""
        left = [times]

        def plans(*_):
            if left[0]:
                left[0] -= 1
                latest = self.job.latest().document
                with transaction.atomic():
                    _append(self.job, self.job.latest().number + 1, latest | {"name": f"Theirs {left[0]}"}, self.person)

        return patch("cradle.jobs.saving._require_plan", plans)

    def test_a_save_that_is_overtaken_while_it_is_planned_is_brought_together_anew(self):
        with self.overtaken(2):
            status, answer = self.save(self.base, pots=self.base["pots"] | {"hands": 3})
        self.assertEqual(
            (status, answer["document"]["name"], answer["document"]["pots"]["hands"]), (200, "Theirs 0", 3)
        )
        with self.overtaken(99):
            status, answer = self.save(answer["document"], pots=self.base["pots"])
        self.assertEqual((status, answer["problems"][0]["message"][:12]), (503, "others save "))

    def test_a_save_leaves_alone_what_was_issued_while_it_was_planned(self):
        mine = self.save(self.base, name="Mine")[1]

        def plans(*_):
            self.job.latest().fix()

        with patch("cradle.jobs.saving._require_plan", plans):
            after = self.save(mine["document"], name="Afterwards")[1]
        self.assertEqual((mine["revision"], after["revision"]), (2, 3))

    def test_what_two_edits_make_together_is_planned_before_it_is_kept(self):
        self.save(self.base, self.mate, name="Theirs that")
        words = self.base["parts"][0] | {"name": "fails"}

        def plans(spec_json, *rest):
            if "Theirs that" in spec_json and '"fails"' in spec_json:
                raise ZeroDivisionError
            return plan_written(spec_json, *rest)

        with patch("cradle.plans.plan_written", plans), self.assertLogs("cradle", "ERROR"):
            self.assertEqual(self.save(self.base, parts=[words, *self.base["parts"][1:]])[0], 422)
        self.assertEqual(self.numbers(), [1, 2])

    def test_another_persons_edit_begins_a_revision(self):
        first = self.save(self.base, name="One")[1]
        self.assertEqual(self.save(first["document"], self.mate, name="Two")[1]["revision"], 3)

    def test_what_was_issued_or_exported_never_changes(self):
        mine = self.save(self.base, name="Issued")[1]
        run = self.start_run()[1]
        after = self.save(mine["document"], name="Afterwards")[1]
        self.assertEqual((run["revision"], after["revision"]), (2, 3))
        self.assertEqual(self.job.revisions.get(number=2).document["name"], "Issued")
        self.client.get(f"/api/jobs/{self.job.pk}/file")
        self.assertEqual(self.save(after["document"], name="After the file")[1]["revision"], 4)

    def test_going_back_is_a_new_revision_and_loses_nothing(self):
        self.save(self.base, name="Wrong turn")
        status, answer = self.send("post", f"/api/jobs/{self.job.pk}/revisions/1/restore")
        self.assertEqual((status, answer["revision"], answer["document"]["name"]), (200, 3, "Estuary skiff"))
        listed = self.get(f"/api/jobs/{self.job.pk}/revisions")[1]
        self.assertEqual(
            [(r["number"], r["name"]) for r in listed], [(3, "Estuary skiff"), (2, "Wrong turn"), (1, "Estuary skiff")]
        )
        for figure in ("mixed_g", "cost", "pot_count"):
            self.assertTrue(listed[0][figure])
            self.assertEqual(listed[0][figure], listed[2][figure])
        self.assertEqual(self.send("post", f"/api/jobs/{self.job.pk}/revisions/99/restore")[0], 404)
        self.assertEqual(JobRevision.objects.get(job=self.job, number=2).document["name"], "Wrong turn")
