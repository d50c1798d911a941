"""The castings of a job line."""

from layup.castings import Pour
from layup.laminate.job_line.reading import Reading, begin, change, exactly, new_id
from layup.laminate.job_line.sizes import first_word, lengths
from layup.laminate.job_line.words import LIES_IN


def pour_said(reading: Reading, words: str) -> bool:
    """A casting with its sizes, or what the one in hand lies in."""
    kind, rest = first_word(words)
    if words.lower().startswith("pour disc "):
        kind, rest = "pour disc", words[len("pour disc ") :]
    if kind in ("pour", "pour disc"):
        read, count = lengths(rest, reading.scales)
        if kind == "pour":
            length, width, depth = exactly(3, kind, "900 x 60 x 25 mm", read)
            sizes: dict[str, object] = {"length_m": length.m, "width_mm": width.mm, "depth_mm": depth.mm}
            typed = {"length_m": length.typed, "width_mm": width.typed, "depth_mm": depth.typed}
        else:
            across, depth = exactly(2, kind, "300 mm x 20 mm", read)
            sizes = {"shape": "disc", "diameter_mm": across.mm, "depth_mm": depth.mm}
            typed = {"diameter_mm": across.typed, "depth_mm": depth.typed}
        name = reading.title or f"Pour {len(reading.pours) + 1}"
        made = {"id": new_id(), "name": name, "use_id": reading.use_id, "count": count, "typed": typed} | sizes
        begin(reading, "pours", Pour.model_validate(made))
        return True
    lies_in = LIES_IN.get(words.lower())
    if lies_in and reading.in_hand == "pours":
        change(reading, lies_in=lies_in)
        return True
    return False
