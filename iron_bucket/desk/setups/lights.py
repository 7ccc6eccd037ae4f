"""A light that a set-up still needs: the need opened in its place, from the bucket, from our kit, to hire."""

from dataclasses import dataclass, field, replace
from datetime import datetime

from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.need import Need
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.changes import Change, added
from iron_bucket.core.setups.plan.setup import Spot
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.suggest.feeds import best_feed, feed_named
from iron_bucket.core.setups.suggest.new_light import ON_A_HEAD, LightWish, NewLight, likeliest_mark, new_light
from iron_bucket.core.setups.suggest.placed_fit import placed_fit
from iron_bucket.core.setups.suggest.pointed import pointed_at
from iron_bucket.core.setups.suggest.shortfall import Shortfall
from iron_bucket.core.setups.suggest.work_for_pick import work_for_pick
from iron_bucket.desk.bench import shelf, shelf_in
from iron_bucket.desk.pick import opened
from iron_bucket.desk.setups.edit import change_setup, open_setup
from iron_bucket.desk.setups.kept import kept_response
from iron_bucket.desk.setups.view import SetupView, read_setup, setup_view
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.change_json import change_row

_CAN_BE_LIT = "a side of somebody, a measuring point, or a place on the plan"


@dataclass(frozen=True, slots=True, kw_only=True)
class LightAsked:
    """``at``: a mark, where somebody pointed on the plan, empty for what lacks most; ``feed_id``: a socket, a kind of
    battery, or nothing; None for whatever the place offers best. The rest as in ``LightWish``.
    """

    at: str | tuple[float, float]
    stops: float | None = None
    like_day: datetime | None = None
    away_m: float | None = None
    height_m: float | None = None
    least_apparent_deg: float | None = None
    feed_id: str | None = None
    fronts: tuple[FrontKind, ...] = ON_A_HEAD


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LightAnswer:
    """``name`` and ``stops`` of the mark now; ``found`` None where there is no answer, and ``why``; ``first``: what has
    to be put there before, such as the point on a wall that a light is for.
    """

    view: SetupView
    mark_id: str
    name: str
    stops: float
    feed_id: str
    found: NewLight | None = None
    why: str = ""
    first: tuple[Change, ...] = field(default=())


@one_transaction
def light_for(session: Session, person_id: int, job_id: int, setup_id: int, asked: LightAsked) -> LightAnswer:
    """What would light a mark. Raises: NotFound; BadValue for a mark that there is not, or a feed."""
    view = setup_view(session, read_setup(session, person_id, job_id, setup_id))
    at = asked.at or likeliest_mark(view.now.ladder)
    mark_id, spot = (at, None) if isinstance(at, str) else pointed_at(view.now.lit, *at)
    scene = _with_spot(view, spot)
    ladder = ladder_of(scene, view.now.rules.receptor)
    rung = ladder.rung(mark_id)
    if rung is None or rung.illuminance_lx is None:
        raise BadValue("what to light", repr(mark_id) if mark_id else "nothing yet", _CAN_BE_LIT)
    feed_id = best_feed(view.now, view.board) if asked.feed_id is None else asked.feed_id
    wish = LightWish(
        mark_id=mark_id,
        stops=asked.stops,
        like_day=asked.like_day,
        away_m=asked.away_m,
        height_m=asked.height_m,
        least_apparent_deg=asked.least_apparent_deg,
        feed=feed_named(view.now, view.board, feed_id),
        feed_id=feed_id,
        fronts=asked.fronts,
    )
    answer = LightAnswer(
        view=view,
        mark_id=mark_id,
        name=rung.name,
        stops=rung.stops,
        feed_id=feed_id,
        first=(added("spots", spot),) if spot else (),
    )
    miss = Shortfall(
        lit=scene, rung=rung, gear=view.now.gear, rules=view.now.rules, response_for=kept_response, bucket=view.bucket
    )
    try:
        return replace(answer, found=new_light(miss, wish, shelf_in(session).packed))
    except NoAnswer as why:
        return replace(answer, why=str(why))


def place_fit(
    session: Session, person_id: int, job_id: int, setup_id: int, need: Need, key: str
) -> tuple[SetupView, str]:
    """A pick's answer put into a set-up: as far from the mark that lacks most as it was asked for, where that is free.

    Gives the lamp's id too. Raises: NotFound; NoAnswer where no place is free; BadValue where nobody is to be lit.
    """
    view = open_setup(session, person_id, job_id, setup_id)
    work = work_for_pick(view.now, view.board, need.throw_m)
    fit = opened(shelf(session), need, key, view.job.rules.units).fit
    changes = placed_fit(fit, work, view.setup)
    rows = [change_row(each) for each in changes]
    text = f"placed {fit.head.name} from a pick"
    return change_setup(session, person_id, job_id, setup_id, rows, text), changes[-1].piece_id


def _with_spot(view: SetupView, spot: Spot | None) -> LitScene:
    if spot is None:
        return view.now.lit
    setup = replace(view.setup, spots=(*view.setup.spots, spot))
    built = build_scene(setup, view.now.lit.built.surroundings, view.now.gear, view.now.rules)
    return LitScene(built=built, banded=kept_response(built))
