"""Practice for those who learn: sums, pouring, days on the clock, samples, lessons, and the record of who has learned what."""
