"""Castings: cavities, what fills them, their heat, and the lifts they are poured in."""
