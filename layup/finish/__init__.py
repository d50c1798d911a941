"""Finish: trimmed, faired, sanded from grit to grit, coated, polished."""
