"""The little ladder of a set-up's card: a list shows hundreds, of which one has changed."""

from flask import g, get_template_attribute
from markupsafe import Markup

from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.ladder import Ladder
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.web.shared.pictures.ladder import SMALL, ladder_picture

_DRAWN: BoundedCache[tuple[Ladder, UnitSystem], Markup] = BoundedCache(1000)


def small_ladder(now: Evaluation) -> Markup:
    """As drawn before, where nothing on it has changed."""

    def drawn() -> Markup:
        picture = ladder_picture(now.ladder, g.units, width=76.0, height=120.0, wedge=SMALL)
        return Markup(get_template_attribute("shared/_ladder.html", "small")(picture))

    return _DRAWN.get_or_make((now.ladder, g.units), drawn)
