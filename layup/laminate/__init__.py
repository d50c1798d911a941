"""What is laid: shapes and their areas, plies with their fibre and resin, the stack in words and in tables."""
