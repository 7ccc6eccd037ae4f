"""The colours of a set-up: what disagrees with a white, and every way to bring it there."""
