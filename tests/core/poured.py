"""Pours that the core and the web reckon alike: tasks, presses, and what the core makes of them.

`python -m tests.core.poured` writes them down for the tests of the web.
"""

import json
from pathlib import Path
from random import Random

from layup.training.pouring import POURS, Press, in_cup, pour_task

FILE = Path(__file__).resolve().parents[2] / "web" / "src" / "practice" / "pours.json"


def written() -> str:
    """Every kind of pour with presses of all lengths, as the web reads them."""
    told = []
    for kind in POURS:
        for seed in (1, 2, 3):
            task, dice = pour_task(f"{kind}-{seed}"), Random(seed)
            presses = [Press(part=dice.choice("AB"), hold_s=round(dice.expovariate(0.5) + 0.02, 3)) for _ in range(30)]
            a, b = in_cup(task, presses)
            told.append(
                {
                    "task": task.model_dump(mode="json"),
                    "presses": [press.model_dump() for press in presses],
                    "a": round(a, 9),
                    "b": round(b, 9),
                }
            )
    return json.dumps(told, indent=1)


if __name__ == "__main__":
    FILE.write_text(written() + "\n", encoding="utf-8")
