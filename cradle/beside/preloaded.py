"""What workers work with, loaded once in the clean process that they all come from: they share it while none writes to it."""

from importlib import import_module

from cradle.garbage import keep_garbage_out_of_the_way

for each in (
    "cradle.beside.written",
    "cradle.beside.starts",
    "layup.infusion.filling",
    "scipy.integrate",
):
    import_module(each)

# Here, not in each worker: it writes to every object.
keep_garbage_out_of_the_way()
