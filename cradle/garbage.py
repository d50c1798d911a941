"""Python's cyclic garbage collector, kept out of the way of an answer."""

import gc

# What a plan makes is dropped at once and holds no cycles; looking for them every 700 objects costs a third of its time.
EVERY = 50_000


def keep_garbage_out_of_the_way() -> None:
    """What stands once all is loaded is never looked through again, and the rest less often."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(EVERY, 5, 2)
