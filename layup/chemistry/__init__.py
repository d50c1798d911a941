"""What sets the pace: ratios, gel times by label and by log, hardeners and doses, the clocks of a cure."""
