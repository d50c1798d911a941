"""Coats: how thick they lie wet and dry, how far a litre goes, what stays on the tool."""
