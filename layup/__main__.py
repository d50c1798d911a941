"""The core at the command line: `python -m layup plan FILE`, `check FILE`, and what there is to know of a job."""

import argparse
import json
import sys
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Any, get_args

from layup import kinds
from layup.as_built.outcome import AsBuilt
from layup.errors import LayupError
from layup.job import MOST_BAYS, MOST_PEOPLE, Task
from layup.job_file import Refused, fresh, may_stand_empty, read_job, schema
from layup.plan import plan
from layup.pots.crew import ONE_MIXES_FROM
from layup.repair.begin import ASKED, PATCHED
from layup.scales import METRIC
from layup.shop_facts import ShopFacts
from layup.usual import LEAST_BAY_M


def asked() -> dict[str, Any]:
    """What a page must know to ask for each kind of work."""
    told = {kind.key: asked for kind in kinds.KINDS if (asked := kind.asked())}
    bays = {"most": MOST_BAYS, "least_m": LEAST_BAY_M}
    crew = {"most": MOST_PEOPLE, "one_mixes_from": ONE_MIXES_FROM, "tasks": list(get_args(Task))}
    damage = [
        {"kind": kind, "patched": kind in PATCHED, "asked": [asdict(asked) for asked in ASKED[kind]]} for kind in ASKED
    ]
    return told | {"bays": bays, "crew": crew, "damage": damage}


_TOLD: dict[str, Callable[[], Any]] = {
    "schema": schema,
    "as-built-schema": AsBuilt.model_json_schema,
    "may-stand-empty": may_stand_empty,
    "fresh": fresh,
    "asked": asked,
}


def _refuse(path: str, message: str) -> None:
    print(f"{path or 'document'}: {message}", file=sys.stderr)


def main(arguments: list[str] | None = None) -> int:
    """Run a command. Answers 0, or 2 with each fault and its field's path on standard error."""
    parser = argparse.ArgumentParser(prog="python -m layup", description="Plan a layup from its job file.")
    commands = parser.add_subparsers(dest="command", required=True)
    planning = commands.add_parser("plan", help="print the plan of a job file as JSON")
    planning.add_argument("file", type=Path)
    checking = commands.add_parser("check", help="say whether a job file is sound, and what its plan waits for")
    checking.add_argument("file", type=Path)
    commands.add_parser("schema", help="print the JSON schema of a job file")
    commands.add_parser("as-built-schema", help="print the JSON schema of what a run built")
    commands.add_parser("may-stand-empty", help="print which numbers of a job may stand empty, as JSON")
    commands.add_parser("asked", help="print what each kind of work is asked for, and what is usual of it, as JSON")
    commands.add_parser("fresh", help="print a part, a joint, a ply and a resin of which nothing is said yet, as JSON")
    options = parser.parse_args(arguments)
    if options.command in _TOLD:
        print(json.dumps(_TOLD[options.command](), indent=1))
        return 0
    try:
        job = read_job(options.file.read_bytes())
    except OSError as error:
        _refuse(str(options.file), f"cannot be read: {error.strerror}")
        return 2
    except Refused as error:
        for path, message in error.faults:
            _refuse(path, message)
        return 2
    except LayupError as error:
        _refuse(error.path, METRIC.said(error.message))
        return 2
    answer = plan(job, ShopFacts())
    for problem in answer.problems:
        _refuse(problem.path, problem.message)
    if answer.problems:
        return 2
    if options.command == "check":
        print(f"{job.name}: sound, {answer.pot_count} pots, {len(answer.cautions)} cautions")
    else:
        print(answer.model_dump_json(indent=1))
    return 0


if __name__ == "__main__":
    sys.exit(main())
