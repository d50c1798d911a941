"""The day: the room by the hour, the schedule and its run sheet, what comes due, what is left of it."""
