"""Every example in the core's docstrings runs."""

import doctest
import importlib
import pkgutil
import unittest

import layup


def load_tests(loader: unittest.TestLoader, tests: unittest.TestSuite, pattern: str | None) -> unittest.TestSuite:
    for module in pkgutil.walk_packages(layup.__path__, "layup."):
        if not module.name.endswith("__main__"):
            tests.addTests(doctest.DocTestSuite(importlib.import_module(module.name)))
    return tests
