"""Units at the edge, stops, mired, and what people type and read. No lamp is known here."""
