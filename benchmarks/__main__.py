"""`make speed`: every benchmark, with the machine it ran on."""

import os
import platform

from benchmarks import (
    bays,
    bench,
    cups,
    cutting,
    documents,
    editing,
    every_step,
    first_hour,
    first_load,
    floor_list,
    flow,
    heat,
    instruments,
    joints,
    killed,
    kinds_of_job,
    left,
    listening,
    load,
    out_of_reach,
    planning,
    pours,
    quick_line,
    races,
    refusals,
    run_sheet,
    scrubbing,
    search,
    signing_in,
    size,
    stalls,
    stock,
    sweep,
    week,
)


def main() -> None:
    print(f"{platform.machine()}, {os.cpu_count()} cores, {platform.system()}, Python {platform.python_version()}\n")
    for benchmark in (
        planning,
        run_sheet,
        bays,
        bench,
        listening,
        instruments,
        out_of_reach,
        heat,
        pours,
        flow,
        cups,
        joints,
        cutting,
        documents,
        refusals,
        floor_list,
        first_load,
        editing,
        first_hour,
        kinds_of_job,
        every_step,
        size,
        quick_line,
        scrubbing,
        stalls,
        stock,
        search,
        week,
        signing_in,
        load,
        left,
        races,
        sweep,
        killed,
    ):
        benchmark.main()
        print()


if __name__ == "__main__":
    main()
