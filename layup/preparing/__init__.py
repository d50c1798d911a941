"""What comes before a pot: pieces cut, ground prepared, materials bought, and what of it is printed."""
