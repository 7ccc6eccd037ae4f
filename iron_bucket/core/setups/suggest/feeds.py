"""What a light that is not there yet could burn from: a socket of the place with what is left on it, or batteries."""

from dataclasses import replace

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.job.load_board import LoadBoard
from iron_bucket.core.selection.need import BatteryFeed, Feed
from iron_bucket.core.setups.evaluation import Evaluation

#: Batteries are asked to last so long.
_BATTERY_H = 2.0
#: So many of one kind are thought of, where nobody has counted ours.
_FEW_BATTERIES = 2


def best_feed(now: Evaluation, board: LoadBoard) -> str:
    """The socket whose circuit has most to spare, else the largest battery of ours, else nothing said."""
    free = {socket: bar.spare_a for bar in board.bars for socket in bar.sockets}
    if free:
        return max(free, key=lambda each: free[each])
    batteries = [each for each in now.gear.batteries if each.is_owned]
    return max(batteries, key=lambda each: each.capacity_wh).slug if batteries else ""


def feed_named(now: Evaluation, board: LoadBoard, feed_id: str) -> Feed | None:
    """As Pick asks it: batteries as cold as the place, or a socket's circuit with what hangs on it, the house's and
    ours; None for no name. Raises: BadValue for a name that is neither.
    """
    kind = now.gear.find(BatteryKind, feed_id)
    if kind is not None:
        celsius, count = now.lit.built.surroundings.place.temperature_c, max(kind.owned, _FEW_BATTERIES)
        usual = BatteryFeed(kind=kind, count=count, burn_h=_BATTERY_H)
        return usual if celsius is None else replace(usual, temperature_c=celsius)
    bar = board.bar_of(feed_id)
    if bar is None and feed_id:
        raise BadValue("fed from", repr(feed_id), "a socket of this place, or a kind of battery")
    return bar.as_used if bar else None
