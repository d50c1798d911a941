"""How to sign in to the demo shop. Printed by `make demo`; it opens the invented shop and nothing else."""

PERSON, PASSWORD = "wren", "tide-and-tar"
