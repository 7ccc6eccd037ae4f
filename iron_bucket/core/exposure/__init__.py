"""Camera to lux and back, shutter, filters, contrast ratios. No lamp is known here."""
