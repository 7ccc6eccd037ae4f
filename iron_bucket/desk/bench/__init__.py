"""The bench as people use it: the shelf, its pieces made and changed, readings, photometric files, spectra, and the
whole of it in and out.

Every change is noted in ``changes``, told as history and can be undone. Picking from the shelf is ``desk/pick``.
"""

from iron_bucket.desk.bench.shelf import Shelf, load_gear, shelf, shelf_in

__all__ = ["Shelf", "load_gear", "shelf", "shelf_in"]
