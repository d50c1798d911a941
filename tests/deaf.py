"""A work that hears no signal, as something compiled may not; in a module of its own, since a worker reads it."""

import signal
import time


def sleep_deaf(seconds: float) -> None:
    signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGALRM})
    time.sleep(seconds)
