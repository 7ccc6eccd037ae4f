"""The bench: what each head really puts out.

Lists and pages in ``routes``; the rest of the routes beside it, one file a task.
"""

from iron_bucket.web.bench import (
    beam_routes,
    edit_routes,
    file_routes,
    hire_routes,
    reading_routes,
    routes,
    side_routes,
    spectrum_routes,
    transfer_routes,
)
from iron_bucket.web.bench.blueprint import bp

__all__ = [
    "beam_routes",
    "bp",
    "edit_routes",
    "file_routes",
    "hire_routes",
    "reading_routes",
    "routes",
    "side_routes",
    "spectrum_routes",
    "transfer_routes",
]
