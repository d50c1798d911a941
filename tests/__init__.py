"""The tests: the core against outside truth, the server, the interface in a real browser."""

from hypothesis import settings

# One clockless profile, with the same examples each run: a slow machine or a lucky draw must not decide.
settings.register_profile("bench", deadline=None, derandomize=True, max_examples=80)
settings.load_profile("bench")
