"""The passes of a job as they are lit."""

from iron_bucket.core.errors import BadValue
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.desk.bucket.view import BucketView
from iron_bucket.desk.setups.kept import kept_evaluation


def scenes_of(view: BucketView) -> dict[int, LitScene]:
    """Those that can be lit in their places."""
    found = {}
    for row in view.contents.setups:
        around = view.contents.places.get(row.place_id)
        if around is not None:
            try:
                found[row.id] = kept_evaluation(row.document, around, view.gear, view.job.rules).lit
            except BadValue:
                continue  # the kit says what is wrong with it
    return found
