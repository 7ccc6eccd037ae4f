"""What a job says of its days: hours, rules, what is fixed, and which shots are its heroes."""

import re
from collections import Counter
from dataclasses import dataclass
from datetime import date

from iron_bucket.core.checks import require_at_most, require_between
from iron_bucket.core.days.order import DayRules, Weights
from iron_bucket.core.days.weather import Forecast
from iron_bucket.core.errors import BadValue

MOST = {"days": 60, "passes": 200, "forecasts": 120}
_MOST_SPANS = 12
_SPAN = re.compile(r"(\d?\d:\d\d)\s*[-–]\s*(\d?\d:\d\d)")
_CLOCK = re.compile(r"([01]?\d|2[0-9]|3[0-5]):([0-5]\d)")


def clock_min(text: str, name: str) -> int | None:
    """Minutes from midnight of a time such as 18:00; up to 35:59 of the morning after. None where nothing is said."""
    if not text:
        return None
    found = _CLOCK.fullmatch(text.strip())
    if found is None:
        raise BadValue(name, repr(text), "a time such as 18:00, or 26:00 for two in the morning after")
    return int(found[1]) * 60 + int(found[2])


def clock_spans(text: str, name: str) -> tuple[tuple[int, int], ...]:
    """Minutes from midnight of spans such as 08:00-12:30, 13:30-18:00; none where nothing is said."""
    spans = []
    for part in filter(None, (each.strip() for each in text.split(","))):
        found = _SPAN.fullmatch(part)
        begins, ends = ((clock_min(each, name) or 0) for each in found.groups()) if found else (0, 0)
        if ends <= begins:
            raise BadValue(name, repr(part), "hours such as 08:00-12:30, 13:30-18:00")
        spans.append((begins, ends))
    require_at_most(name, len(spans), _MOST_SPANS)
    return tuple(spans)


def clock_words(minute: int) -> str:
    """As a clock shows it, whatever the day."""
    return f"{minute // 60 % 24:02d}:{minute % 60:02d}"


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedDay:
    """``day``: its date; ``call``: when the crew begins, ``wrap``: from when it is overtime, ``curfew``: after which
    nothing may be shot; ``sound``: hours in which sound can be recorded. Empty: as usual, no curfew, and all day.
    """

    piece_id: str
    day: str
    call: str = ""
    wrap: str = ""
    curfew: str = ""
    sound: str = ""

    def __post_init__(self) -> None:
        try:
            date.fromisoformat(self.day)
        except ValueError:
            raise BadValue("day", repr(self.day), "a date such as 2026-11-26") from None
        for name in ("call", "wrap", "curfew"):
            clock_min(getattr(self, name), name)
        clock_spans(self.sound, "sound")


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedPass:
    """``is_pinned``: it is shot at its own hour, whatever else moves; ``is_hero``: the day is built round it;
    ``has_sound``: sound is recorded with it.
    """

    piece_id: str
    setup_id: int
    is_pinned: bool = False
    is_hero: bool = False
    has_sound: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class DayPlan:
    """``turn_deg``: how far the sun may turn; ``forecasts``: the weather as it was told. Weights as in ``Weights``."""

    days: tuple[PlannedDay, ...] = ()
    passes: tuple[PlannedPass, ...] = ()
    forecasts: tuple[Forecast, ...] = ()
    move_min: int = 45
    turn_round_min: int = 5
    break_after_min: int = 360
    break_min: int = 30
    turn_deg: float = 20.0
    overtime: float = Weights().overtime
    missed: float = Weights().missed
    waited: float = Weights().waited
    late: float = Weights().late
    move: float = Weights().move
    piece: float = Weights().piece

    def __post_init__(self) -> None:
        for name, most in MOST.items():
            require_at_most(name, len(getattr(self, name)), most)
        require_between("sun may turn", self.turn_deg, low=1.0, high=180.0, unit="degrees")
        for name in ("overtime", "missed", "waited", "late", "move", "piece"):
            require_between(name, getattr(self, name), low=0.0, high=1000.0, unit="points")
        ids = Counter(each.piece_id for some in (self.days, self.passes, self.forecasts) for each in some)
        if ids and max(ids.values()) > 1:
            raise BadValue("id", repr(max(ids, key=ids.__getitem__)), "an id that is used once")
        self.rules(date.min)

    def day(self, day: date) -> PlannedDay | None:
        """What was said of one day."""
        return next((each for each in self.days if each.day == day.isoformat()), None)

    def forecast(self, place_id: int, day: date) -> Forecast | None:
        """The weather that was told of one place and day."""
        return next((each for each in self.forecasts if (each.place_id, each.day) == (place_id, day.isoformat())), None)

    def sound_min(self, day: date) -> tuple[tuple[int, int], ...]:
        """Spans of minutes in which sound can be recorded; none where it can all day."""
        said = self.day(day)
        return clock_spans(said.sound, "sound") if said else ()

    def of_pass(self, setup_id: int) -> PlannedPass:
        """What was said of one pass."""
        usual = PlannedPass(piece_id=f"pass-{setup_id}", setup_id=setup_id)
        return next((each for each in self.passes if each.setup_id == setup_id), usual)

    def rules(self, day: date, begins_min: int = 8 * 60) -> DayRules:
        """Of one day; ``begins_min`` where nobody says when the crew begins. Overtime begins ten hours later."""
        said = self.day(day)
        call = clock_min(said.call, "call") if said else None
        begins = begins_min if call is None else call
        wrap = clock_min(said.wrap, "wrap") if said else None
        return DayRules(
            begins_min=begins,
            ends_min=begins + 600 if wrap is None else wrap,
            curfew_min=clock_min(said.curfew, "curfew") if said else None,
            move_min=self.move_min,
            turn_round_min=self.turn_round_min,
            break_after_min=self.break_after_min,
            break_min=self.break_min,
            weights=Weights(
                overtime=self.overtime,
                missed=self.missed,
                waited=self.waited,
                late=self.late,
                move=self.move,
                piece=self.piece,
            ),
        )
