"""A job's house rules: voltage, units, and which school leads."""
