"""How long the worst files that are no job hold a reader up before they are refused."""

import time
from contextlib import suppress

from layup.document import MOST_BYTES
from layup.errors import LayupError
from layup.job_file import read_job

PROMISED_MS = 1000
HOSTILE = {
    "too large": b" " * (MOST_BYTES + 1),
    "brackets without end": b"[" * 900_000,
    "one name of 1.9 MB": b'{"name": "' + b"x" * 1_900_000 + b'"}',
    "a list of 900,000 numbers": b'{"name": "x", "parts": [' + b"0," * 900_000 + b"0]}",
}


def main() -> None:
    print(f"Files that are no job, refused in ms (promised under {PROMISED_MS:,}):")
    for what, content in HOSTILE.items():
        began = time.perf_counter()
        with suppress(LayupError):
            read_job(content)
        print(f"  {what}: {1000 * (time.perf_counter() - began):.0f}")
