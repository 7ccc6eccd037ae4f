"""Where a pick's answer goes in a set-up: before the mark that lacks most, as far off as it was asked for."""

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.power.job.load_board import LoadBoard
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.suggest.feeds import best_feed
from iron_bucket.core.setups.suggest.head_place import stance_for
from iron_bucket.core.setups.suggest.new_light import likeliest_mark
from iron_bucket.core.setups.suggest.placed_fit import Work


def work_for_pick(now: Evaluation, board: LoadBoard, throw_m: float) -> Work:
    """At the throw where that is free, else at the likeliest place.

    Raises: NoAnswer where no place is free; BadValue where nothing is to be lit.
    """
    mark = likeliest_mark(now.ladder)
    place = now.lit.place_of(mark)
    if place is None:
        raise BadValue("set-up", repr(now.setup.name), "one with a person or a measuring point to light")
    built = now.lit.built
    try:
        stance = stance_for(built, built.marks[place].mark, away_m=throw_m)
    except NoAnswer:
        stance = stance_for(built, built.marks[place].mark)
    return Work(
        from_m=stance.head_m,
        subject_m=built.marks[place].mark.position_m,
        aims_at=built.marks[place].piece_id,
        purpose=now.mark_names.get(mark, ""),
        cct_k=now.setup.look.white_balance_k,
        feed=best_feed(now, board),
    )
