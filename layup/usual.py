"""What a joint has where nobody has typed another number."""

SQUEEZE_OUT_SHARE = 0.20  # common practice: 15 to 30 %
SCARF_SLOPE = 8.0  # common practice: 1 in 8, and 1 in 12 where it is worked hard
LENGTHS_OVERLAP = 1 / 3  # common practice
