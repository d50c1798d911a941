"""The core at the command line: `python -m layup plan FILE` and `python -m layup schema`."""

import argparse
import json
import sys
from pathlib import Path

from pydantic import ValidationError

from layup.errors import problems_of
from layup.job import JobSpec, ShopFacts
from layup.plan import plan


def _refuse(path: str, message: str) -> None:
    print(f"{path or 'document'}: {message}", file=sys.stderr)


def main(arguments: list[str] | None = None) -> int:
    """Run a command. Answers 0, or 2 with each fault and its field's path on standard error."""
    parser = argparse.ArgumentParser(prog="python -m layup", description="Plan a layup from its job file.")
    commands = parser.add_subparsers(dest="command", required=True)
    planning = commands.add_parser("plan", help="print the plan of a job file as JSON")
    planning.add_argument("file", type=Path)
    commands.add_parser("schema", help="print the JSON schema of a job file")
    options = parser.parse_args(arguments)
    if options.command == "schema":
        print(json.dumps(JobSpec.model_json_schema(), indent=1))
        return 0
    try:
        text = options.file.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        _refuse(str(options.file), f"cannot be read: {getattr(error, 'strerror', None) or 'not text'}")
        return 2
    try:
        answer = plan(JobSpec.model_validate_json(text), ShopFacts())
    except ValidationError as error:
        for path, message in problems_of(error):
            _refuse(path, message)
        return 2
    for problem in answer.problems:
        _refuse(problem.path, problem.message)
    if answer.problems:
        return 2
    print(answer.model_dump_json(indent=1))
    return 0


if __name__ == "__main__":
    sys.exit(main())
