"""A shooting day: its light by the hour, how long it holds, and the order of what is shot."""
