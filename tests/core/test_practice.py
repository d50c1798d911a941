"""The practice profile: what is offered is what the document takes."""

from typing import get_args
from unittest import TestCase

from layup.job import Practice
from layup.practice import practice_choices


class Profile(TestCase):
    def test_every_choice_is_offered_with_a_reason_for_each_side(self):
        choices = {choice.field: choice for choice in practice_choices()}
        self.assertEqual(list(choices), list(Practice.model_fields))
        for name, field in Practice.model_fields.items():
            with self.subTest(choice=name):
                offered = [option.value for option in choices[name].options]
                self.assertEqual(sorted(offered), sorted(get_args(field.annotation)))
                self.assertEqual(offered[0], field.default)
                self.assertTrue(all(option.reason.endswith(".") for option in choices[name].options))
