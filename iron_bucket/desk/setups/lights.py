"""A light that a set-up still needs: the need opened in its place, from the bucket, from our kit, to hire."""

from dataclasses import dataclass, field, replace
from datetime import datetime

from sqlalchemy.orm import Session

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.need import BatteryFeed, Feed, Need
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.changes import Change, added
from iron_bucket.core.setups.plan.setup import Spot
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.suggest.head_place import stance_for
from iron_bucket.core.setups.suggest.new_light import ON_A_HEAD, LightWish, NewLight, likeliest_mark, new_light
from iron_bucket.core.setups.suggest.placed_fit import Work, placed_fit
from iron_bucket.core.setups.suggest.pointed import pointed_at
from iron_bucket.core.setups.suggest.shortfall import Shortfall
from iron_bucket.desk.bench import shelf, shelf_in
from iron_bucket.desk.pick import opened
from iron_bucket.desk.setups.edit import change_setup, open_setup
from iron_bucket.desk.setups.kept import kept_response
from iron_bucket.desk.setups.view import SetupView, read_setup, setup_view
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.change_json import change_row

#: Batteries are asked to last so long.
BATTERY_H = 2.0
#: So many of one kind are thought of, where nobody has counted ours.
_FEW_BATTERIES = 2
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
    feed_id = _best_feed(view) if asked.feed_id is None else asked.feed_id
    wish = LightWish(
        mark_id=mark_id,
        stops=asked.stops,
        like_day=asked.like_day,
        away_m=asked.away_m,
        height_m=asked.height_m,
        least_apparent_deg=asked.least_apparent_deg,
        feed=_feed(view, feed_id),
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
    mark = likeliest_mark(view.now.ladder)
    place = view.now.lit.place_of(mark)
    if place is None:
        raise BadValue("set-up", repr(view.setup.name), "one with a person or a measuring point to light")
    built = view.now.lit.built
    try:
        stance = stance_for(built, built.marks[place].mark, away_m=need.throw_m)
    except NoAnswer:
        stance = stance_for(built, built.marks[place].mark)
    work = Work(
        from_m=stance.head_m,
        subject_m=built.marks[place].mark.position_m,
        aims_at=built.marks[place].piece_id,
        purpose=view.now.mark_names.get(mark, ""),
        cct_k=view.setup.look.white_balance_k,
        feed=_best_feed(view),
    )
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
    return LitScene(built=built, response=kept_response(built))


def _best_feed(view: SetupView) -> str:
    """The socket whose circuit has most to spare, else the largest battery of ours, else nothing said."""
    sockets = view.now.lit.built.surroundings.place.sockets
    free = {each.socket_id: found.free_a for each in sockets if (found := _circuit(view, each.socket_id))}
    if free:
        return max(free, key=lambda each: free[each])
    batteries = [each for each in view.now.gear.batteries if each.is_owned]
    return max(batteries, key=lambda each: each.capacity_wh).slug if batteries else ""


def _circuit(view: SetupView, socket_id: str) -> Circuit | None:
    """Of a socket, with what hangs on it already: the house's, and ours."""
    place = view.now.lit.built.surroundings.place
    socket = next((each for each in place.sockets if each.socket_id == socket_id), None)
    house = place.circuit(socket.circuit) if socket else None
    if house is None:
        return None
    return Circuit(
        voltage_v=house.voltage_v,
        breaker_a=house.breaker_a,
        planned_share=view.now.rules.planned_share,
        used_a=house.used_a + view.now.amps.get(house.name, 0.0),
    )


def _feed(view: SetupView, feed_id: str) -> Feed | None:
    kind = view.now.gear.find(BatteryKind, feed_id)
    if kind is not None:
        celsius, count = view.now.lit.built.surroundings.place.temperature_c, max(kind.owned, _FEW_BATTERIES)
        warm = BatteryFeed(kind=kind, count=count, burn_h=BATTERY_H)
        return warm if celsius is None else replace(warm, temperature_c=celsius)
    circuit = _circuit(view, feed_id)
    if circuit is None and feed_id:
        raise BadValue("fed from", repr(feed_id), "a socket of this place, or a kind of battery")
    return circuit
