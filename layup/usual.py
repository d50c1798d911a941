"""What a thing has where nobody has typed another number, and what is usual. Common practice."""

SQUEEZE_OUT_SHARE, SQUEEZE_OUT_FROM, SQUEEZE_OUT_TO = 0.20, 0.15, 0.30
SCARF_SLOPE, SCARF_SLOPE_WORKED_HARD = 8.0, 12.0
LENGTHS_OVERLAP = 1 / 3
# How much further each ply steps back from a bay's seam, mm.
STAGGER_MM = 50.0
# No bay is narrower: a roller finds no room in it (memory), m.
LEAST_BAY_M = 0.15
# A casting that stays under this yellows and cracks little (memory), °C.
MOST_PEAK_C = 60.0
# What tabbing is mostly cut of, by its short name.
TABBING_KIND = "biax"
# A mould is at least so many times as thick as what is made in it.
MOULD_TO_PART = 3.0
