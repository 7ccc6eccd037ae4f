"""Iron Bucket: the lamps a set needs, proven by measured output, and the kit that carries them."""
