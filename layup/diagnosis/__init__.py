"""What went wrong: signs in, causes out, with what the log rules out and what mends it."""
