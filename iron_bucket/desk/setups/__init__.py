"""Set-ups: what stands where, what comes of it, and how it is changed.

``kept`` holds what was computed, ``view`` makes what a page shows, ``edit`` changes, ``passes`` orders and copies,
``share`` shows to others.
"""
