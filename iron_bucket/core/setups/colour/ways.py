"""Every way to bring one light to a colour: its own setting, gels from stock, film on a window, another globe, off."""

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import cached_property

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bucket.gel_cuts import cut_of, sheets_for
from iron_bucket.core.colour.gel_stacks import Gel, GelStack, GelStacks, off_mired, ranked
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import Seen, seen_against
from iron_bucket.core.colour.tint import duv_from_tint, tint_from_duv
from iron_bucket.core.modifiers.gelled import gelled
from iron_bucket.core.modifiers.kinds import ScrimSchool, Sheet
from iron_bucket.core.places.place import HouseLamp
from iron_bucket.core.quantities.mired import seen_k
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.setups.plan.changes import Change, Operation, added, next_id, set_piece
from iron_bucket.core.setups.plan.setup import HouseColour, PlacedLamp, Setup, WindowFilm
from iron_bucket.core.setups.scene.build_scene import BuiltLight, BuiltScene, LightKind
from iron_bucket.core.setups.scene.fixture import Fixture, fixture_of

#: Globes that any shop has, typical.
GLOBES_K = (2700.0, 3000.0, 4000.0, 5000.0, 5600.0, 6500.0)
#: Round a lamp of the house goes about so much gel.
_ROUND_M = (0.5, 0.4)


class WayKind(StrEnum):
    """What is done to a light."""

    NOTHING = "as it is"
    CONTROL = "its own setting"
    GEL = "gel"
    BOTH = "its own setting and gel"
    FILM = "film on the window"
    GLOBE = "another globe"
    OFF = "switched off"


#: Stacks that are looked at for a light, and those of them that are shown.
_LOOKED_AT, _SHOWN = 40, 3


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ColourWay:
    """``left``: how far off the target it still is; ``loss_stops``: of its light, below 0 it gains. ``area_m2`` of gel,
    ``to_buy``: how many of what of it are beyond what we have, and its ``price``. ``caution``: with the figure.
    """

    kind: WayKind
    text: str
    changes: tuple[Change, ...]
    colour: LightColour
    left: Seen
    loss_stops: float = 0.0
    area_m2: float = 0.0
    to_buy: tuple[tuple[int, str], ...] = ()
    price: float = 0.0
    sheets: int = 0
    caution: str = ""

    @property
    def off(self) -> float:
        """How far off, in mired."""
        return off_mired(self.left.mired, self.left.duv)

    @property
    def cost(self) -> tuple[float, float, int]:
        """The cheapest first: what has to be fetched, then the light it takes, then sheets to cut."""
        return self.price + len(self.to_buy), round(self.loss_stops, 2), self.sheets


@dataclass(frozen=True, kw_only=True, eq=False)
class GelStock:
    """Colour and tint gels of a bench: all of them, and those that are ours."""

    gear: Gear
    most: int = 2
    _kept: dict[bool, GelStacks] = field(default_factory=dict, repr=False)

    @cached_property
    def sheets(self) -> dict[str, Sheet]:
        """By slug; retired ones and what is no colour left out."""
        return {each.slug: each for each in self.gear.sheets if each.kind.is_colour and not each.is_retired}

    def stacks(self, *, ours: bool) -> GelStacks:
        """Of ours, or of all."""
        if ours not in self._kept:
            chosen = [each for each in self.sheets.values() if each.is_owned or not ours]
            self._kept[ours] = GelStacks.of([_gel(each) for each in chosen], self.most)
        return self._kept[ours]


def _gel(sheet: Sheet) -> Gel:
    return Gel(
        name=sheet.name,
        transmittance=sheet.passes(ScrimSchool.HALF_AND_ONE).value,
        shift_mired=sheet.shift_mired,
        duv=float(duv_from_tint(sheet.tint)),
        slug=sheet.slug,
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Asked:
    """What a light is brought to, how near is near enough, and with what."""

    target: LightColour
    tolerance: float
    stock: GelStock
    built: BuiltScene
    scrim_school: ScrimSchool = ScrimSchool.HALF_AND_ONE

    @property
    def setup(self) -> Setup:
        """What was placed."""
        return self.built.setup


def ways_for(light: BuiltLight, asked: Asked) -> tuple[ColourWay, ...]:
    """Those within the tolerance first, the cheapest first; then the nearest."""
    found = [_way(WayKind.NOTHING, "as it is", (), light.colour, asked)]
    if light.placed is not None:
        found += _of_lamp(light, light.placed, asked)
    elif light.kind is LightKind.HOUSE:
        found += _of_house(light, asked)
    elif not isinstance(light.light, SceneLamp) and light.light_id != "sky":
        found += _of_window(light, asked)
    return tuple(sorted(found, key=lambda each: (each.off > asked.tolerance, *_rank(each, asked.tolerance))))


def _rank(way: ColourWay, tolerance: float) -> tuple[float, ...]:
    is_off = way.kind is WayKind.OFF
    return (is_off, *way.cost, way.off) if way.off <= tolerance else (is_off, way.off)


def _way(
    kind: WayKind, text: str, changes: tuple[Change, ...], colour: LightColour, asked: Asked, **more: object
) -> ColourWay:
    left = seen_against(colour, asked.target)
    if math.isnan(left.mired):  # a saturated colour is as far off as anything
        left = Seen(mired=999.0, duv=left.duv)
    return ColourWay(kind=kind, text=text, changes=changes, colour=colour, left=left, **more)  # type: ignore[arg-type]


def _of_lamp(light: BuiltLight, placed: PlacedLamp, asked: Asked) -> Iterator[ColourWay]:
    """Its own control, gels at its present setting, and gels on the nearest it can be set to."""
    stock, gear = asked.stock, asked.stock.gear
    kept = tuple(slug for slug in placed.sheets if slug not in stock.sheets)
    bare = replace(placed, sheets=kept)
    own = _set_to(bare, asked)
    starts = [(bare, WayKind.GEL)]
    if own is not None:
        set_to = fixture_of(own, gear, asked.scrim_school)
        colour = set_to.colour(own)
        fields = {"cct_k": own.cct_k, "tint": own.tint, "sheets": own.sheets}
        said = f"set to {colour.cct_k:.0f} K" if colour.is_white else f"set to {own.cct_k:.0f} K"
        if own.tint != placed.tint:
            said += f", tint {own.tint:+.2g}"
        change = set_piece("lamps", placed.piece_id, **fields)
        yield _way(WayKind.CONTROL, said, (change,), colour, asked, loss_stops=_loss(light, set_to))
        starts.append((own, WayKind.BOTH))
    fixture = light.fixture
    if fixture is None or not fixture.head.takes_gel:
        return
    opening = fixture.configuration.face
    for start, kind in starts:
        colour = fixture_of(start, gear, asked.scrim_school).colour(start)
        if not colour.is_white:
            continue
        for stack in _best_stacks(colour, asked):
            worn = replace(start, sheets=(*kept, *(gel.slug for gel in stack.gels)))
            fields = {"sheets": worn.sheets, "cct_k": worn.cct_k, "tint": worn.tint}
            change = set_piece("lamps", placed.piece_id, **fields)
            text = _said(stack) + (f" on {start.cct_k:.0f} K" if kind is WayKind.BOTH else "")
            behind = fixture_of(worn, gear, asked.scrim_school)
            yield _way(
                kind,
                text,
                (change,),
                behind.colour(worn),
                asked,
                loss_stops=_loss(light, behind),
                caution=_heat(fixture.head, [asked.stock.sheets[gel.slug] for gel in stack.gels]),
                **_cost(stack, asked, opening.width_m, opening.height_m),
            )


def _heat(head: Head, sheets: Sequence[Sheet]) -> str:
    """Gel before a lamp that burns it."""
    if not head.is_hot:
        return ""
    unrated = " and ".join(dict.fromkeys(sheet.name for sheet in sheets if not sheet.is_heat_rated))
    rated = f"nobody says that {unrated} is heat-rated" if unrated else "heat-rated gel"
    return f"{head.draw.full_w.value:.0f} W hot lamp: {rated}, off the glass, and look at it every hour"


def _loss(light: BuiltLight, after: Fixture) -> float:
    """Of its light on the axis, by setting and gels."""
    return math.log2(light.fixture.axis_cd / after.axis_cd) if light.fixture else 0.0


def _set_to(bare: PlacedLamp, asked: Asked) -> PlacedLamp | None:
    """The lamp set as near to the target as it goes; None of one that has no setting."""
    fixture = fixture_of(bare, asked.stock.gear, asked.scrim_school)
    head, target = fixture.head, asked.target
    has_tint = head.lowest_tint < head.highest_tint
    if not target.is_white or (head.lowest_cct_k >= head.highest_cct_k and not has_tint):
        return None
    own = fixture.colour(bare)
    if not own.is_white:
        return None
    set_k = head.nearest_cct_k(bare.cct_k)
    cct_k = head.nearest_cct_k(seen_k(1e6 / set_k + target.mired - own.mired))
    tint = bare.tint
    if has_tint:
        wanted = bare.tint + float(tint_from_duv(target.duv - own.duv))
        tint = round(min(max(wanted, head.lowest_tint), head.highest_tint), 2)
    return replace(bare, cct_k=round(cct_k / 10.0) * 10.0, tint=tint)


def _best_stacks(colour: LightColour, asked: Asked) -> Iterator[GelStack]:
    """The best of ours; and where none of those is near enough the best of all. None that works against itself."""
    wanted, duv = asked.target.mired - colour.mired, colour.duv - asked.target.duv
    seen = set()
    for ours in (True, False):
        nearest = ranked(asked.stock.stacks(ours=ours), wanted, duv, tolerance_mired=asked.tolerance, most=_LOOKED_AT)
        best = [each for each in nearest if not each.works_against_itself][:_SHOWN]
        for stack in best:
            names = tuple(gel.slug for gel in stack.gels)
            if names and names not in seen:
                seen.add(names)
                yield stack
        if best and best[0].off <= asked.tolerance:
            return


def _said(stack: GelStack) -> str:
    return " + ".join(gel.name for gel in stack.gels)


def _cost(stack: GelStack, asked: Asked, width_m: float, height_m: float) -> dict[str, object]:
    """Area to cut, what of it is beyond what we have, and its price."""
    counts = Counter(gel.slug for gel in stack.gels)
    cut = cut_of(width_m, height_m)
    to_buy, price = [], 0.0
    for slug, layers in counts.items():
        sheet = asked.stock.sheets[slug]
        stock_m = (sheet.stock_w_m, sheet.stock_l_m) if sheet.stock_w_m else cut
        missing = sheets_for([cut] * layers, stock_m) - sheet.owned
        if missing > 0:
            to_buy.append((missing, sheet.name))
            price += missing * (sheet.day_price or 0.0)
    return {
        "area_m2": cut[0] * cut[1] * len(stack.gels),
        "to_buy": tuple(to_buy),
        "price": price,
        "sheets": len(stack.gels),
    }


def _of_window(light: BuiltLight, asked: Asked) -> Iterator[ColourWay]:
    """Colour film on the pane, with any ND that is on it already."""
    place = asked.built.surroundings.place
    panes = [each for room in place.rooms for each in room.openings if each.opening_id == light.light_id]
    if not panes:
        return
    pane, on = panes[0], next((each for each in asked.setup.films if each.opening_id == light.light_id), None)
    worn = asked.built.films.get(light.light_id)
    colour = light.colour
    before = 0.0
    if on is not None and worn is not None and on.sheets:
        colour = colour.shifted(-worn.shift_mired, -worn.duv)
        before = worn.stops - on.stops
    for stack in _best_stacks(colour, asked):
        slugs = tuple(gel.slug for gel in stack.gels)
        change = (
            set_piece("films", on.piece_id, sheets=slugs)
            if on is not None
            else added(
                "films", WindowFilm(piece_id=next_id(asked.setup, "film"), opening_id=light.light_id, sheets=slugs)
            )
        )
        after = gelled(colour, [asked.stock.sheets[slug] for slug in slugs])
        cost = _cost(stack, asked, pane.width_m, pane.height_m)
        yield _way(WayKind.FILM, _said(stack), (change,), after, asked, loss_stops=stack.loss_stops - before, **cost)


def _of_house(light: BuiltLight, asked: Asked) -> Iterator[ColourWay]:
    """Gels round it, another globe, off; as far as it can be covered and switched."""
    lamp = next(
        (each for each in asked.built.surroundings.place.house_lamps if f"house-{each.lamp_id}" == light.light_id), None
    )
    if lamp is None:
        return
    on = next((each for each in asked.setup.house if each.lamp_id == lamp.lamp_id), None)
    own = LightColour.of_cct(lamp.cct_k, lamp.duv)
    if "covered" in lamp.can:
        for stack in _best_stacks(own, asked):
            slugs = tuple(gel.slug for gel in stack.gels)
            change = _house_change(lamp, on, asked, {"sheets": slugs, "globe_k": 0.0, "globe_duv": 0.0})
            after = gelled(own, [asked.stock.sheets[slug] for slug in slugs])
            yield _way(
                WayKind.GEL,
                f"{_said(stack)} round it",
                (change,),
                after,
                asked,
                loss_stops=stack.loss_stops,
                **_cost(stack, asked, *_ROUND_M),
            )
    if lamp.is_bare and asked.target.is_white:
        globe_k = min(GLOBES_K, key=lambda each: abs(1e6 / each - asked.target.mired))
        globe = LightColour.of_cct(globe_k)
        change = _house_change(lamp, on, asked, {"globe_k": globe_k, "globe_duv": 0.0, "sheets": ()})
        yield _way(
            WayKind.GLOBE,
            f"a globe of {globe_k:.0f} K",
            (change,),
            globe,
            asked,
            to_buy=((1, f"{globe_k:.0f} K globe"),),
        )
    if "switched" in lamp.can and not lamp.must_stay:
        off = Change(operation=Operation.SET, where="setup", to={"house_off": (*asked.setup.house_off, lamp.lamp_id)})
        yield _way(
            WayKind.OFF, "switched off, and its light replaced", (off,), asked.target, asked, loss_stops=math.inf
        )


def _house_change(lamp: HouseLamp, on: HouseColour | None, asked: Asked, to: dict[str, object]) -> Change:
    if on is not None:
        return set_piece("house", on.piece_id, **to)
    piece = HouseColour(piece_id=next_id(asked.setup, "house"), lamp_id=lamp.lamp_id)
    return added("house", replace(piece, **to))  # type: ignore[arg-type]
