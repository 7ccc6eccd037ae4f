"""A day on batteries, minute by minute: which unit drains on which lamp, when to swap, what charges meanwhile, and when
it goes dark.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.power.battery_day import MINUTES_AN_HOUR, BatteryDay, Charger
from iron_bucket.core.quantities.rounding import at_most

#: Where a unit is while it hangs on no lamp.
_SHELF = -1
#: Below this a unit counts as empty, above it short of full.
_HAIR_WH = 1e-9


class Happening(StrEnum):
    SWAP = "swap"
    DARK = "dark"
    LIT = "lit again"
    REFUSES = "refuses"  # more than the batteries may deliver at all


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """``minute`` from the day's beginning; units by their numbers, kind after kind in the order of the day."""

    minute: int
    lamp_id: str
    what: Happening
    taken: tuple[int, ...] = ()
    put: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Ledger:
    """Where all energy of the day came from and went, in Wh."""

    stored_wh: float
    mains_wh: float
    lamps_wh: float
    lost_in_units_wh: float
    lost_in_chargers_wh: float
    left_wh: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class BurntDay:
    """Shapes, with T minutes, N lamps and U units: is_lit and is_dark (T, N); at the end of each minute energy_wh
    (T, U) and lamp_of (T, U), the number of the lamp that a unit hangs on, -1 of none; unit_kind (U,).
    """

    events: tuple[Event, ...]
    ledger: Ledger
    is_lit: np.ndarray
    is_dark: np.ndarray
    energy_wh: Array
    lamp_of: np.ndarray
    unit_kind: np.ndarray

    @property
    def lasts(self) -> bool:
        """Whether nothing goes dark all day."""
        return not bool(self.is_dark.any())


class _Units:
    """The state of all units while the day runs. Shapes (U,)."""

    def __init__(self, day: BatteryDay) -> None:
        self.kind = np.repeat(np.arange(len(day.kinds)), [each.count for each in day.kinds])
        self.capacity_wh = np.array([wh for each in day.kinds for wh in each.capacities_wh])
        self.energy_wh = self.capacity_wh.copy()
        self.lamp = np.full(len(self.kind), _SHELF)
        fits = {each.charger_id: [kind.kind_id in each.kind_ids for kind in day.kinds] for each in day.chargers}
        self.fits = {name: np.array(row, dtype=bool)[self.kind] for name, row in fits.items()}

    def swapped(self, lamp: int, kind: int, plates: int, need_wh: float) -> tuple[list[int], list[int]]:
        """Units that cannot last the minute come off, the fullest that can go on, as far as there are any."""
        on = np.flatnonzero(self.lamp == lamp)
        weak = on[self.energy_wh[on] < need_wh - _HAIR_WH]
        self.lamp[weak] = _SHELF
        free = np.flatnonzero((self.lamp == _SHELF) & (self.kind == kind) & (self.energy_wh >= need_wh - _HAIR_WH))
        best = free[np.argsort(-self.energy_wh[free], kind="stable")][: plates - (len(on) - len(weak))]
        self.lamp[best] = lamp
        return weak.tolist(), best.tolist()

    def released(self, is_done: np.ndarray) -> None:
        """What hangs on lamps that do not burn again that day comes off. Shape of is_done (N,)."""
        self.lamp[np.append(is_done, True)[self.lamp]] = _SHELF

    def filled(self, need_wh: Array) -> np.ndarray:
        """How many units of each lamp last another minute. Shapes (N,) both."""
        able = self.energy_wh >= np.append(need_wh, np.inf)[self.lamp] - _HAIR_WH
        return np.bincount(self.lamp[able], minlength=len(need_wh))

    def burn(self, need_wh: Array, is_lit: np.ndarray) -> None:
        """One minute of what hangs on a lamp that is lit."""
        self.energy_wh -= self.burnt_wh(need_wh, is_lit)

    def burnt_wh(self, need_wh: Array, is_lit: np.ndarray) -> Array:
        """What each unit gives in a minute. Shapes (N,) twice, (U,)."""
        return np.asarray(np.append(need_wh * is_lit, 0.0)[self.lamp])

    def charge(self, charger: Charger, rate: float, in_a_bay: np.ndarray) -> float:
        """One minute in the bays of a charger at a share of its power, those first that are soonest full; gives Wh into
        cells. ``in_a_bay``: units that sit in another charger already; those of this one are marked.
        """
        short_wh = self.capacity_wh - self.energy_wh
        fits = self.fits[charger.charger_id]
        is_free = charger.while_feeding | (self.lamp == _SHELF)
        waiting = np.flatnonzero(fits & is_free & ~in_a_bay & (short_wh > _HAIR_WH))
        chosen = waiting[np.argsort(short_wh[waiting], kind="stable")][: charger.bays]
        in_a_bay[chosen] = True
        is_slow = self.energy_wh[chosen] >= charger.slow_from * self.capacity_wh[chosen]
        given = rate * charger.bay_w / MINUTES_AN_HOUR * np.where(is_slow, charger.slow_share, 1.0)
        given = np.minimum(given, short_wh[chosen])
        self.energy_wh[chosen] += given
        return float(given.sum())


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Stretch:
    """Minutes ``at`` and after it, ``count`` in all, in which nothing changes but that each unit gives ``burn_wh``
    (U,) a minute; ``energy_wh``: at the end of the first of them.
    """

    at: int
    count: int
    is_lit: np.ndarray
    is_dark: np.ndarray
    energy_wh: Array
    burn_wh: Array


class _Run:
    """A day under way. Shapes (N,), of lamps."""

    def __init__(self, day: BatteryDay) -> None:
        self.day, self.units = day, _Units(day)
        places = {each.kind_id: at for at, each in enumerate(day.kinds)}
        self.kind = np.array([places[lamp.kind_id] for lamp in day.lamps], dtype=int)
        self.plates = np.array([lamp.plates for lamp in day.lamps], dtype=int)
        self.efficiency = np.array([day.kinds[at].supply.efficiency for at in self.kind])
        self.most_w = np.array([day.kinds[at].supply.most_w for at in self.kind]) * self.plates
        self.was_dark = np.zeros(len(day.lamps), dtype=bool)
        is_asked = _watts(day).astype(bool)
        self.last_minute = np.where(is_asked.any(axis=0), len(is_asked) - 1 - is_asked[::-1].argmax(axis=0), -1)
        self.events: list[Event] = []
        self.charged_wh = self.mains_wh = 0.0

    def minute(self, at: int, watts: Array, phase: int) -> tuple[np.ndarray, np.ndarray]:
        """Serve, burn, charge; which lamps are lit in it, and which dark that should not be."""
        self.units.released(at > self.last_minute)
        need_wh = self.need_wh(watts)
        bears = at_most(watts, self.most_w)
        asked = watts > 0.0
        short = np.flatnonzero(asked & bears & (self.units.filled(need_wh) < self.plates))
        for lamp in short.tolist():
            off, put = self.units.swapped(lamp, int(self.kind[lamp]), int(self.plates[lamp]), float(need_wh[lamp]))
            if put:
                self._note(at, lamp, Happening.SWAP, tuple(off), tuple(put))
        lit = asked & bears & (self.units.filled(need_wh) >= self.plates)
        self._told(at, asked, lit, bears)
        self.units.burn(need_wh, lit)
        self._charge(phase)
        return lit, asked & ~lit

    def need_wh(self, watts: Array) -> Array:
        """Of each unit on a lamp, for a minute."""
        return np.asarray(watts / MINUTES_AN_HOUR / self.plates / self.efficiency)

    def stretches(self) -> Iterator[_Stretch]:
        """The whole day."""
        watts, phases, at = _watts(self.day), _phases(self.day), 0
        ends = np.repeat(np.cumsum(self.day.minutes), self.day.minutes)
        while at < len(watts):
            is_lit, is_dark = self.minute(at, watts[at], int(phases[at]))
            energy_wh = self.units.energy_wh.copy()
            burn_wh = self.units.burnt_wh(self.need_wh(watts[at]), is_lit)
            more = self._alike_for(at, burn_wh, int(phases[at]), int(ends[at]))
            self.units.energy_wh -= more * burn_wh
            yield _Stretch(at=at, count=1 + more, is_lit=is_lit, is_dark=is_dark, energy_wh=energy_wh, burn_wh=burn_wh)
            at += 1 + more

    def _alike_for(self, at: int, burn_wh: Array, phase: int, end: int) -> int:
        """How many minutes more pass as this one did: until a unit is near its end, or the phase ends;
        none while anything charges.
        """
        units = self.units
        if any(not each.rates or each.rates[phase] for each in self.day.chargers) and bool(
            (units.capacity_wh - units.energy_wh > _HAIR_WH).any()
        ):
            return 0
        burning = burn_wh > 0.0
        lasting = (units.energy_wh[burning] / burn_wh[burning]).min(initial=float(end)) - 1.0
        return max(min(int(lasting), end - at - 1), 0)

    @property
    def units_taken(self) -> list[int]:
        """Numbers of the units that were put on a lamp."""
        return sorted({unit for event in self.events for unit in event.put})

    def _told(self, at: int, asked: np.ndarray, lit: np.ndarray, bears: np.ndarray) -> None:
        dark = asked & ~lit
        for lamp in np.flatnonzero(dark & ~self.was_dark).tolist():
            self._note(at, lamp, Happening.DARK if bears[lamp] else Happening.REFUSES)
        for lamp in np.flatnonzero(lit & self.was_dark).tolist():
            self._note(at, lamp, Happening.LIT)
        self.was_dark = np.where(asked, dark, self.was_dark)

    def _charge(self, phase: int) -> None:
        in_a_bay = np.zeros(len(self.units.kind), dtype=bool)
        for charger in self.day.chargers:
            rate = charger.rates[phase] if charger.rates else 1.0
            if rate == 0.0:
                continue
            into_wh = self.units.charge(charger, rate, in_a_bay)
            self.charged_wh += into_wh
            self.mains_wh += into_wh / charger.efficiency

    def _note(
        self, at: int, lamp: int, what: Happening, taken: tuple[int, ...] = (), put: tuple[int, ...] = ()
    ) -> None:
        name = self.day.lamps[lamp].lamp_id
        self.events.append(Event(minute=at, lamp_id=name, what=what, taken=taken, put=put))


def burnt(day: BatteryDay) -> BurntDay:
    """The day as it goes: a lamp whose units cannot last another minute is served before that minute, or dark in it.

    Source: energy balance of each minute, W at the lamp / efficiency from the cells.
    """
    run, watts = _Run(day), _watts(day)
    stored_wh, shape = float(run.units.energy_wh.sum()), (len(watts), len(run.units.kind))
    is_lit, is_dark = np.zeros(watts.shape, dtype=bool), np.zeros(watts.shape, dtype=bool)
    energy_wh, lamp_of = np.zeros(shape), np.zeros(shape, dtype=int)
    for each in run.stretches():
        minutes = slice(each.at, each.at + each.count)
        is_lit[minutes], is_dark[minutes], lamp_of[minutes] = each.is_lit, each.is_dark, run.units.lamp
        energy_wh[minutes] = each.energy_wh - np.arange(each.count)[:, None] * each.burn_wh
    given_wh = (watts * is_lit).sum(axis=0) / MINUTES_AN_HOUR
    ledger = Ledger(
        stored_wh=stored_wh,
        mains_wh=run.mains_wh,
        lamps_wh=float(given_wh.sum()),
        lost_in_units_wh=float((given_wh / run.efficiency - given_wh).sum()),
        lost_in_chargers_wh=run.mains_wh - run.charged_wh,
        left_wh=float(run.units.energy_wh.sum()),
    )
    return BurntDay(
        events=tuple(run.events),
        ledger=ledger,
        is_lit=is_lit,
        is_dark=is_dark,
        energy_wh=energy_wh,
        lamp_of=lamp_of,
        unit_kind=run.units.kind,
    )


def least_units(day: BatteryDay, *, most: int = 200) -> dict[str, int] | None:
    """How many of each kind last the day, each made as few as the others, made few before it, allow; None where
    ``most`` of each do not last.
    """
    counts = {each.kind_id: most for each in day.kinds}
    plenty = _lasting(day, counts)
    if plenty is None:
        return None
    taken = np.bincount(plenty.units.kind[plenty.units_taken], minlength=len(day.kinds)).tolist()
    for kind, guess in zip(day.kinds, taken, strict=True):
        short, enough, middle = -1, most, min(guess, most - 1)
        while enough - short > 1:
            if _lasting(day, counts | {kind.kind_id: middle}):
                enough = middle
            else:
                short = middle
            middle = (short + enough) // 2
        counts[kind.kind_id] = enough
    return counts


def first_dark_min(day: BatteryDay) -> int | None:
    """The minute in which something goes dark, None where all last: the rest of the day is not looked at."""
    return _until_dark(_Run(day))


def _lasting(day: BatteryDay, counts: dict[str, int]) -> _Run | None:
    """The day through; None where something goes dark."""
    run = _Run(replace(day, kinds=tuple(replace(each, count=counts[each.kind_id]) for each in day.kinds)))
    return run if _until_dark(run) is None else None


def _until_dark(run: _Run) -> int | None:
    return next((each.at for each in run.stretches() if each.is_dark.any()), None)


def _phases(day: BatteryDay) -> np.ndarray:
    """Of each minute. Shape (T,)."""
    return np.repeat(np.arange(len(day.minutes)), day.minutes)


def _watts(day: BatteryDay) -> Array:
    """Of each lamp in each minute. Shape (T, N)."""
    by_phase = np.array([lamp.watts for lamp in day.lamps]).reshape(len(day.lamps), len(day.minutes))
    return np.asarray(by_phase.T[_phases(day)])
