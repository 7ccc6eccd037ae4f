"""Two to four stacks on the same work: same distance, same cloth, same width; and which is the better tool for what."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin, least_trusted
from iron_bucket.core.modifiers.kinds import Sheet
from iron_bucket.core.photometry.apparent_size import apparent_size_deg
from iron_bucket.core.quantities.mired import seen_k
from iron_bucket.core.selection.chain import front_figures, sheet_figure
from iron_bucket.core.selection.fronts import Front, FrontKind
from iron_bucket.core.selection.levels import behind_sheet, coverage_m, seen_deg, spread_profile, through_fronts
from iron_bucket.core.selection.narrow import cut_to, key_places
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.open_light import open_levels_lx
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.places import reach_m

FEWEST, MOST = 2, 4
CURVE_THROWS_M: Array = np.geomspace(0.5, 20.0, 17)
SECTION_PLACES = 25
#: The distance at which a long throw is told from a short one.
FAR_M = 10.0
#: A difference smaller than this is none that a meter would show.
EVEN_STOPS = 0.1


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SideRow:
    """One stack on the work. Levels in lux at full output unless said otherwise.

    Shapes: curve_lx as CURVE_THROWS_M, section_lx as the places. ``through_lx``: the same lamp through the frame that
        all are compared
    behind, nothing else on it; None where no frame was named.
    """

    key: str
    head: Head
    configuration: Configuration
    front: Front
    sheets: tuple[Sheet, ...]
    level_lx: float
    lowest_lx: float
    open_lx: float
    far_lx: float
    through_lx: float | None
    coverage_m: float
    apparent_deg: float
    watts: float
    weight_kg: float
    day_price: float
    coolest_k: float
    warmest_k: float
    tint: float
    is_owned: bool
    origin: Origin
    curve_lx: Array
    section_lx: Array

    @property
    def lux_per_watt(self) -> float:
        """At full output."""
        return self.level_lx / self.watts

    @property
    def lux_per_kg(self) -> float:
        """At full output, all that stands there."""
        return self.level_lx / self.weight_kg

    @property
    def lux_per_price(self) -> float | None:
        """For each unit of a day's hire; None for what costs nothing."""
        return self.level_lx / self.day_price if self.day_price else None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SideBySide:
    """``places_m``: where the cross-sections were taken, from the axis outwards."""

    throw_m: float
    frame: Front | None
    places_m: Array
    rows: tuple[SideRow, ...]


def side_by_side(bench: PackedBench, keys: tuple[str, ...], need: Need, frame_key: str = "") -> SideBySide:
    """Stacks by their keys; those that the bench no longer has are left out. ``frame_key``: a frame with its cloth,
    behind which all are compared.

    Raises: BadValue for a frame that is not there.
    """
    frame = next((front for front in bench.fronts if front.key == frame_key and front.kind is FrontKind.FRAME), None)
    if frame_key and frame is None:
        raise BadValue("frame", repr(frame_key), "a frame with a cloth that fits it, as the bench names them")
    places = np.linspace(0.0, reach_m(need), SECTION_PLACES)
    found = [key_places(bench, key) for key in keys[:MOST]]
    stacks = [
        (key, int(rows[0]), int(fronts[0]), int(sets[0]))
        for key, (rows, fronts, sets) in zip(keys, found, strict=False)
        if len(rows)
        and len(fronts)
        and len(sets)
        and bench.mounts[rows[0], fronts[0]]
        and bench.wears[rows[0], sets[0]]
    ]
    if not stacks:
        return SideBySide(throw_m=need.throw_m, frame=frame, places_m=places, rows=())
    light = _Light.of(bench, stacks, frame, need.throw_m, places)
    rows = tuple(_row(bench, place, stack, need, places, light) for place, stack in enumerate(stacks))
    return SideBySide(throw_m=need.throw_m, frame=frame, places_m=places, rows=rows)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Light:
    """What all stacks do at once, sheets left out.

    Shapes: with N stacks, section_lx (N, M), curve_lx (N, T), the rest (N,).
    """

    section_lx: Array
    size_m: Array
    scattered: Array
    open_lx: Array
    far_lx: Array
    through_lx: Array | None
    curve_lx: Array

    @classmethod
    def of(
        cls,
        bench: PackedBench,
        stacks: list[tuple[str, int, int, int]],
        frame: Front | None,
        throw_m: float,
        places: Array,
    ) -> "_Light":
        """One pass a distance for all of them: every configuration through every front, of which each stack's own is
        taken.
        """
        rows, fronts = (np.array([stack[part] for stack in stacks]) for part in (1, 2))
        together = cut_to(bench, rows, fronts, np.zeros(1, dtype=int))
        own = np.arange(len(stacks))
        on_axis = np.zeros(1)
        open_lx, far_lx = (open_levels_lx(together, each) for each in (throw_m, FAR_M))
        together = _behind_own_sheets(bench, together, stacks)
        at_work = through_fronts(together, throw_m, places)
        curve = [through_fronts(together, float(throw), on_axis).profile_lx[own, own, 0] for throw in CURVE_THROWS_M]
        behind = None
        if frame is not None:
            place = next(index for index, front in enumerate(bench.fronts) if front.key == frame.key)
            framed = cut_to(bench, rows, np.array([place]), np.zeros(1, dtype=int))
            behind = through_fronts(framed, throw_m, on_axis).profile_lx[:, 0, 0]
        return cls(
            section_lx=at_work.profile_lx[own, own],
            size_m=at_work.size_m[own, own],
            scattered=at_work.scattered[own, own],
            open_lx=open_lx,
            far_lx=far_lx,
            through_lx=behind,
            curve_lx=np.array(curve).T,
        )


def _behind_own_sheets(
    bench: PackedBench, together: PackedBench, stacks: Sequence[tuple[str, int, int, int]]
) -> PackedBench:
    """The heads of some stacks, each behind the diffusion sheet of its own."""
    candela, offset_m = together.candela.copy(), together.offset_m.copy()
    for at, (_, row, _, sets) in enumerate(stacks):
        kind = bench.sheet_scatter[bench.head_class[row], sets]
        if kind:
            behind = behind_sheet(together, bench.scatters[kind - 1])
            candela[at], offset_m[at] = behind.candela[at], behind.offset_m[at]
    return replace(together, candela=candela, offset_m=offset_m)


def _row(
    bench: PackedBench, place: int, stack: tuple[str, int, int, int], need: Need, places: Array, light: _Light
) -> SideRow:
    key, row, front_place, sets = stack
    head, front = bench.heads[row], bench.fronts[front_place]
    kind = int(bench.head_class[row])
    passes = float(2.0 ** bench.sheet_stops(need.scrim_school)[kind, sets])
    section = light.section_lx[place] * passes
    if front.kind is FrontKind.OPEN and bench.sheet_spread[kind, sets] != 1.0:
        section = spread_profile(section[None], places, need.throw_m, bench.sheet_spread[kind, sets])[0]
    from_m = need.throw_m * front.seen_share
    head_deg = apparent_size_deg(np.sqrt(bench.face_width_m[row] * bench.face_height_m[row]), need.throw_m)
    shift = float(bench.front_shift_mired[kind, front_place] + bench.sheet_shift_mired[kind, sets])
    return SideRow(
        key=key,
        head=head,
        configuration=bench.configurations[row],
        front=front,
        sheets=bench.sheet_sets[sets].sheets,
        level_lx=float(section[0]),
        lowest_lx=float(section[0]) * head.lowest_level,
        open_lx=float(light.open_lx[place]),
        far_lx=float(light.far_lx[place]),
        through_lx=None if light.through_lx is None else float(light.through_lx[place]),
        coverage_m=float(coverage_m(section, places, need.evenness_stops)),
        apparent_deg=float(seen_deg(light.size_m[place], from_m, light.scattered[place], head_deg)),
        watts=float(bench.full_w[row]),
        weight_kg=float(bench.weight_kg[row] + bench.front_weight_kg[front_place] + bench.sheet_weight_kg[sets]),
        day_price=float(bench.day_price[row] + bench.front_day_price[front_place] + bench.sheet_day_price[sets]),
        coolest_k=seen_k(bench.coolest_mired[row] + shift),
        warmest_k=seen_k(bench.warmest_mired[row] + shift),
        tint=float(bench.tint[row] + bench.sheet_tint[kind, sets]),
        is_owned=bool(bench.is_owned[row] and bench.front_is_owned[front_place] and bench.sheet_is_owned[sets]),
        origin=_origin(bench, row, front, sets, need),
        curve_lx=light.curve_lx[place] * passes,
        section_lx=section,
    )


def _origin(bench: PackedBench, row: int, front: Front, sets: int, need: Need) -> Origin:
    """The weakest of everything that the level rests on."""
    parts = [figure.origin for figure in front_figures(bench, row, front)]
    parts += [sheet_figure(bench, row, sheet, need.scrim_school).origin for sheet in bench.sheet_sets[sets].sheets]
    return least_trusted((bench.configurations[row].origin, *parts))


@dataclass(frozen=True, slots=True, kw_only=True)
class Verdict:
    """The better tool for one task.

    ``places``: rows of the best; several where no meter would tell them apart. ``ahead_stops``: over the next.
    """

    task: str
    places: tuple[int, ...]
    ahead_stops: float | None


def verdicts(sides: SideBySide) -> tuple[Verdict, ...]:
    """Which stack is the better tool for what, from the figures alone; tasks that only one can do are told without a
    margin.
    """
    rows = sides.rows
    if len(rows) < FEWEST:
        return ()
    on_battery = [row.lux_per_watt if row.head.battery_plates else 0.0 for row in rows]
    tasks = [
        (f"a long throw, {FAR_M:g} m in the open", [row.far_lx for row in rows]),
        ("the level at this work", [row.level_lx for row in rows]),
        ("a wide fill", [row.coverage_m for row in rows]),
        ("softness", [row.apparent_deg for row in rows]),
        ("burning low without a scrim", [1.0 / row.lowest_lx for row in rows]),
        ("light off a battery", on_battery),
        ("carrying", [row.lux_per_kg for row in rows]),
    ]
    if sides.frame is not None:
        tasks.insert(1, ("light through the cloth", [row.through_lx for row in rows if row.through_lx is not None]))
    prices = [row.lux_per_price for row in rows]
    money = [price for price in prices if price is not None]
    if len(money) == len(prices):
        tasks.append(("the money", money))
    return tuple(_verdict(task, np.array(values)) for task, values in tasks if max(values) > 0.0)


def _verdict(task: str, values: Array) -> Verdict:
    with np.errstate(divide="ignore"):
        stops = np.log2(values)
    behind = stops.max() - stops
    best = tuple(int(place) for place in np.flatnonzero(behind < EVEN_STOPS))
    others = behind[behind >= EVEN_STOPS]
    ahead = float(others.min()) if len(others) and np.isfinite(others.min()) else None
    return Verdict(task=task, places=best, ahead_stops=ahead)
