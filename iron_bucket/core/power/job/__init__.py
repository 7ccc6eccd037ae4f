"""The power of a job: what it brings to feed its lamps, what hangs where in each pass, and how the days run on it.

Reads bench, places and set-ups; the laws of circuits, leads and batteries stand one floor up, in ``core/power``.
"""
