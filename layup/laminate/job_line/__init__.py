"""A whole job in one line of typing: its name, its sizes, what it is laid on, its plies, its joints, what is poured."""
