"""Pots: the mix in hand, how large each may be, its ticket, and what it really did."""
