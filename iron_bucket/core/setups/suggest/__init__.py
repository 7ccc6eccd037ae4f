"""What to do: fixes of a missed target, levels for all targets, presets to begin with."""
