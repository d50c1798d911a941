"""How headline numbers are worked out, told so that they can be followed."""
