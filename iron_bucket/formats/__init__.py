"""Bytes and text to core values and back. No database, no request, and no guessing in silence."""
