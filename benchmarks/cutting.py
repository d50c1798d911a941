"""How long pieces take to pack on a roll, how much is wasted over the area they have, and how long labels take."""

import random
import time

from layup.library import generic
from layup.preparing.before_pot import CutPiece
from layup.preparing.cutting import pack
from layup.preparing.printing import labels_pdf

COUNT, SEED = 300, 7
PROMISED_S, PROMISED_WASTE, PROMISED_LABELS_S = 1.0, 0.10, 2.0


def pieces(count: int, seed: int) -> list[CutPiece]:
    """Pieces as boats have them: most of a hand to a table, some as long as a panel."""
    draw = random.Random(seed)
    return [
        CutPiece(
            id=f"y.1.{number}",
            number=number,
            part_id="p",
            part_name=f"Part {number % 12 + 1}",
            copy_number=1,
            copies=1,
            ply_id=f"y{number}",
            ply_number=number % 5 + 1,
            fabric_id="cloth",
            fabric_name="300 cloth, twill",
            angle="",
            along_mm=draw.randint(150, 1800),
            across_mm=draw.randint(100, 1200),
            part_of="",
            edges="cut",
            notes=("frays: handle by the edges",),
        )
        for number in range(1, count + 1)
    ]


def main() -> None:
    cloth = next(fabric for fabric in generic().fabrics if fabric.id == "cloth-300")
    mat = next(fabric for fabric in generic().fabrics if fabric.id == "csm-450")
    for fabric in (cloth, mat):
        for count in (COUNT // 2, COUNT):
            seeded = pieces(count, SEED)
            began = time.perf_counter()
            rolls = pack(seeded, fabric)
            took = time.perf_counter() - began
            over = sum(roll.run_m for roll in rolls) * fabric.roll_width_mm / 1000 / sum(roll.area_m2 for roll in rolls)
            told = f", promised under {PROMISED_S:g} s and {PROMISED_WASTE:.0%}" if count == COUNT else ""
            print(f"{count} pieces of {fabric.name}: {took:.2f} s, {over - 1:.1%} over their area{told}")
    began = time.perf_counter()
    size = len(labels_pdf("Benchmark", pieces(COUNT, SEED)))
    took = time.perf_counter() - began
    print(f"{COUNT} labels as PDF: {took:.2f} s, {size / 1000:.0f} kB, promised under {PROMISED_LABELS_S:g} s")


if __name__ == "__main__":
    main()
