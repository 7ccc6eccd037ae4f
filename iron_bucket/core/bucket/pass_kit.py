"""The pieces of a pass: everything that has to be brought for it, down to the peg, each with the rule and the figure
that brought it.

Weights, amps, prices, buckets and sheets all read this one list.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.flag import Flag, FlagKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.stand import spigot_for_mm
from iron_bucket.core.bucket.accessories import Facts, Fetcher
from iron_bucket.core.bucket.ballast import CLOTH_DRAG, HEAD_HEIGHT_M, NET_DRAG, Standing, bag_of, ballast_of
from iron_bucket.core.bucket.entry import Entry, FedFrom
from iron_bucket.core.bucket.gel_cuts import cut_of
from iron_bucket.core.bucket.ground import Ground, grounds_of
from iron_bucket.core.bucket.kit_rules import Subject
from iron_bucket.core.bucket.need import Need, Sort, by_sort, entries_of, need
from iron_bucket.core.bucket.support import ARM_TAG, Support, support_for
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board, Sheet, SheetKind
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities import display
from iron_bucket.core.setups.plan.setup import HouseColour, PlacedFlag, PlacedFrame, PlacedLamp, Setup, WindowFilm
from iron_bucket.core.setups.scene.build_scene import frame_parts
from iron_bucket.core.setups.scene.fixture import Fixture, fixture_of

#: A configuration that weighs less is how the head is set, not something that can be left behind.
LIGHTEST_OPTIC_KG = 0.1
#: Gels and frost are cut; scrims, nets and what has a size of its own are not.
_CUT = (SheetKind.COLOUR, SheetKind.TINT, SheetKind.ND, SheetKind.DIFFUSION)
#: A gel is pegged along two of its edges, to the doors above and below.
_PEGGED_EDGES = 2
#: A black that is wider hangs between two stands; a flag is held so far out on its arm.
_WIDEST_ON_ONE_M, _FLAG_ARM_M = 1.25, 0.5
#: Film comes from rolls so wide, with so much over; a stop is a density of 0.3.
_ROLL_M, _OVER, _DENSITY_A_STOP = 1.2, 1.1, 0.3
#: A gel that is wrapped round a lamp of the house, typical.
_ROUND_A_LAMP_M = (0.5, 0.4)
#: From here on a wired head is steered by a lead, and not by hand.
_OUT_OF_REACH_M = 2.0


@dataclass(frozen=True, kw_only=True)
class PassKit:
    """``needs`` of one pass; ``left_out``: what is placed or asked for and cannot be brought, and why, in words;
    ``away``: of ours that cannot go, by slug.
    """

    setup_name: str
    needs: tuple[Need, ...]
    left_out: tuple[str, ...] = ()
    away: Mapping[str, int] = field(default_factory=dict)

    @cached_property
    def entries(self) -> tuple[Entry, ...]:
        """The pieces with their numbers, told apart by ids below 0."""
        return tuple(replace(entry, entry_id=-1 - at) for at, entry in enumerate(entries_of(self.needs)))

    @cached_property
    def by_sort(self) -> dict[Sort, tuple[Need, ...]]:
        """Of each sort all that need it, the one that draws most first."""
        return by_sort(self.needs)


def pass_kit(setup: Setup, gear: Gear, rules: HouseRules, surroundings: Surroundings | None = None) -> PassKit:
    """Lamps with what they wear, stand on and are fed from; frames, boards and flags with what holds them; film; marks
    on the floor. Without surroundings everything stands indoors.
    """
    return _Packer(setup, gear, rules, surroundings).kit()


class _Packer:
    def __init__(self, setup: Setup, gear: Gear, rules: HouseRules, surroundings: Surroundings | None) -> None:
        self.setup, self.gear, self.rules, self.surroundings = setup, gear, rules, surroundings
        self.crew, self.units, self.bag = rules.kit, rules.units, bag_of(gear)
        self.fetcher = Fetcher(gear, rules.kit, rules.units)
        self.left_out: list[str] = []

    def kit(self) -> PassKit:
        things: tuple[PlacedLamp | PlacedFrame | PlacedFlag, ...] = (
            *self.setup.lamps,
            *self.setup.frames,
            *self.setup.flags,
        )
        grounds = grounds_of(things, self.surroundings)
        needs: list[Need] = []
        for placed in things:
            try:
                needs += self._of(placed, grounds[placed.piece_id])
            except BadValue as bad:
                self.left_out.append(f"{placed.name} in {self.setup.name}: {bad}")
        needs += (each for film in self.setup.films for each in self._of_film(film))
        needs += (each for house in self.setup.house for each in self._of_house(house))
        needs += self._of_pass()
        told = (f"{self.setup.name}: {words}" for words in self.fetcher.left_out)
        return PassKit(
            setup_name=self.setup.name, needs=tuple(needs), left_out=(*self.left_out, *told), away=self.gear.away
        )

    def _of(self, placed: PlacedLamp | PlacedFrame | PlacedFlag, ground: Ground) -> Iterator[Need]:
        if isinstance(placed, PlacedLamp):
            return self._of_lamp(placed, fixture_of(placed, self.gear, self.rules.scrim_school), ground)
        if isinstance(placed, PlacedFlag):
            return self._of_flag(placed, ground)
        return self._of_frame(placed, ground)

    def _of_lamp(self, placed: PlacedLamp, fixture: Fixture, ground: Ground) -> Iterator[Need]:
        head, configuration, face = fixture.head, fixture.configuration, fixture.face
        battery, holder, name = self.gear.find(BatteryKind, placed.feed), placed.piece_id, placed.name
        fed_from = FedFrom.BATTERY if battery else FedFrom.MAINS
        yield need(
            "heads",
            head,
            "head",
            holder,
            figure=name,
            level=fixture.level(placed),
            fed_from=fed_from,
            setting=configuration.name,
        )
        if configuration.weight_kg >= LIGHTEST_OPTIC_KG:
            yield need("configurations", configuration, "optic", holder, figure=name)
        opening = configuration.face
        gels = 0
        for sheet in fixture.sheets:
            if sheet.kind in _CUT and sheet.stock_w_m:
                cut, gels = cut_of(opening.width_m, opening.height_m), gels + 1
                said = " × ".join(str(display.length(side, self.units)) for side in cut)
                yield need("sheets", sheet, "gel", holder, figure=f"{name}: {said}", cut=cut)
            else:
                gels += sheet.kind in _CUT
                yield need("sheets", sheet, "worn", holder, figure=name)
        if face:
            yield need("faces", face, "worn", holder, figure=name)
        if fixture.grid:
            yield need("grids", fixture.grid, "worn", holder, figure=name)
        support = support_for(
            self.gear,
            payload_kg=fixture.payload_kg,
            spigot_mm=head.spigot_mm,
            height_m=placed.z_m,
            room_m=ground.room_m,
        )
        sail_m2 = face.width_m * face.height_m if face else 0.0
        yield from self._stood(placed, support, 1, fixture.payload_kg, "stand", ground, sail_m2=sail_m2)
        plates = 0
        if battery:
            plate = head.plate_for(battery.mount)
            plates = plate.plates if plate and plate.is_separate else 0
            count = plate.plates if plate else 1
            yield need(
                "batteries", battery, "battery-set", holder, pieces=count, figure=f"{name}: {count} on its plates"
            )
        figures = {
            "height_m": placed.z_m,
            "payload_kg": fixture.payload_kg,
            "watts": head.draw.full_w.value,
            "is_hot": head.is_hot,
            "dimmed_w": fixture.dimmed_w(placed) if battery is None else 0.0,
            "is_outdoors": ground.is_outdoors,
            "is_adapted": support.is_adapted,
            "is_hung": support.stand is None and placed.z_m > HEAD_HEIGHT_M,
            "is_on_floor": support.is_on_floor,
            "gels": gels,
            "gel_edges": gels * _PEGGED_EDGES,
            "is_unsealed": ground.is_outdoors and not head.weather,
            "is_wired_high": "wired" in head.control and placed.z_m > _OUT_OF_REACH_M,
            "loose_plates": plates,
        }
        fits = battery.mount if battery else ""
        yield from self.fetcher.brought(
            Facts(subject=Subject.LAMP, holder=holder, name=name, figures=figures, fits=fits)
        )

    def _stood(
        self,
        placed: PlacedLamp | PlacedFrame | PlacedFlag,
        support: Support,
        count: int,
        payload_kg: float,
        rule: str,
        ground: Ground,
        *,
        sail_m2: float = 0.0,
        drag: float = CLOTH_DRAG,
        arm_m: float = 0.0,
    ) -> Iterator[Need]:
        """Stands with their bags; what nothing carries is told, unless it hangs."""
        stand, height = support.stand, display.length(placed.z_m, self.units)
        figure = f"{placed.name}: {display.mass(payload_kg, self.units)}, {height} up"
        if stand is None:
            if not (isinstance(placed, PlacedLamp) and placed.z_m > HEAD_HEIGHT_M):
                self.left_out.append(f"{figure} in {self.setup.name}: no stand of the bench carries it so high")
            return
        if support.is_tight and ground.room_m is not None:
            legs, room = (display.length(each, self.units) for each in (stand.legs_m, ground.room_m))
            figure += f"; its legs reach {legs}, the wall is {room} away"
        yield need("stands", stand, rule, placed.piece_id, pieces=count, figure=figure)
        if self.bag is None:
            return
        ballast = ballast_of(
            Standing(
                stand=stand,
                count=count,
                payload_kg=payload_kg,
                height_m=placed.z_m,
                sail_m2=sail_m2,
                drag=drag,
                arm_m=arm_m,
                is_outdoors=ground.is_outdoors,
            ),
            self.crew,
            self.bag,
            self.units,
        )
        for rule_id, bags, said in (
            ("bag", ballast.bags, ballast.figure),
            ("ballast", ballast.wind_bags, ballast.wind_figure),
        ):
            if bags and self.crew.rule(rule_id).is_on:
                yield need("bags", ballast.bag, rule_id, placed.piece_id, pieces=bags, figure=f"{placed.name}: {said}")

    def _of_frame(self, placed: PlacedFrame, ground: Ground) -> Iterator[Need]:
        parts, name, holder = frame_parts(placed, self.gear), placed.name, placed.piece_id
        if isinstance(parts, Board):
            board, area_m2 = parts, parts.width_m * parts.height_m
            yield need("boards", board, "board", holder, figure=name)
            support = self._flat_support(placed, board.weight_kg, ground)
            yield from self._stood(placed, support, 1, board.weight_kg, "flat-stand", ground, sail_m2=area_m2)
            figures = self._flat_figures(placed, board.weight_kg, area_m2, 1, ground)
            yield from self.fetcher.brought(Facts(subject=Subject.BOARD, holder=holder, name=name, figures=figures))
            return
        frame, cloth = parts
        area_m2, edge_m = frame.width_m * frame.height_m, 2.0 * (frame.width_m + frame.height_m)
        if not frame.tubes:
            yield need("frames", frame, "frame", holder, figure=name)
        size = " × ".join(str(display.length(side, self.units)) for side in (frame.width_m, frame.height_m))
        yield need("cloths", cloth, "cloth", holder, figure=f"{name}: {size}", area_m2=area_m2)
        support = self._flat_support(placed, frame.weight_kg, ground)
        whole_kg = frame.weight_kg + cloth.weight_kg * area_m2
        yield from self._stood(placed, support, 2, whole_kg, "flat-stand", ground, sail_m2=area_m2)
        figures = self._flat_figures(placed, whole_kg, area_m2, 2, ground)
        figures |= {"edge_m": edge_m, "tubes": frame.tubes, "joints": max(frame.tubes - 4, 0)}
        yield from self.fetcher.brought(
            Facts(subject=Subject.FRAME, holder=holder, name=name, figures=figures, length_m=frame.tube_m or None)
        )

    def _flat_support(
        self, placed: PlacedFrame | PlacedFlag, weight_kg: float, ground: Ground, tag: str = ""
    ) -> Support:
        return support_for(
            self.gear,
            payload_kg=weight_kg,
            spigot_mm=spigot_for_mm(weight_kg),
            height_m=placed.z_m,
            room_m=ground.room_m,
            tag=tag,
        )

    def _flat_figures(
        self, placed: PlacedFrame | PlacedFlag, weight_kg: float, area_m2: float, stands: int, ground: Ground
    ) -> dict[str, float]:
        return {
            "height_m": placed.z_m,
            "payload_kg": weight_kg,
            "area_m2": area_m2,
            "stands": stands,
            "is_outdoors": ground.is_outdoors,
            "lines": area_m2 if ground.is_outdoors else 0.0,
        }

    def _of_flag(self, placed: PlacedFlag, ground: Ground) -> Iterator[Need]:
        flag = _flag_for(self.gear, placed)
        size = " × ".join(str(display.length(side, self.units)) for side in (placed.width_m, placed.height_m))
        if flag is None:
            self.left_out.append(f"{placed.name} in {self.setup.name}: no {placed.kind} of {size} is on the bench")
            weight_kg = 1.0
        else:
            weight_kg = flag.weight_kg
            yield need("flags", flag, "flag", placed.piece_id, figure=f"{placed.name}: {size}")
        stands = 2 if placed.kind is FlagKind.BLACK and placed.width_m > _WIDEST_ON_ONE_M else 1
        area_m2 = placed.width_m * placed.height_m
        yield from self._stood(
            placed,
            self._flat_support(placed, weight_kg, ground, ARM_TAG),
            stands,
            weight_kg,
            "flat-stand",
            ground,
            sail_m2=area_m2,
            drag=NET_DRAG if placed.kind in (FlagKind.SINGLE_NET, FlagKind.DOUBLE_NET) else CLOTH_DRAG,
            arm_m=_FLAG_ARM_M if stands == 1 else 0.0,
        )
        figures = self._flat_figures(placed, weight_kg, area_m2, stands, ground)
        yield from self.fetcher.brought(
            Facts(subject=Subject.FLAG, holder=placed.piece_id, name=placed.name, figures=figures)
        )

    def _of_film(self, film: WindowFilm) -> Iterator[Need]:
        """Film by its density; the windows of the place say how large they are."""
        place = self.surroundings.place if self.surroundings else None
        openings = [each for room in (place.rooms if place else ()) for each in room.openings]
        window = next((each for each in openings if each.opening_id == film.opening_id), None)
        if window is None:
            return
        holder = f"{film.opening_id}:gel"
        for slug in film.sheets:
            yield self._gel(slug, holder, window.name, window.width_m, window.height_m)
        if not film.stops:
            return
        area_m2 = window.width_m * window.height_m
        figures: Mapping[str, float] = {
            "area_m2": area_m2,
            "edge_m": 2.0 * (window.width_m + window.height_m),
            "roll_m": area_m2 / _ROLL_M * _OVER,
        }
        density = f"ND {film.stops * _DENSITY_A_STOP:.1f}"
        holder = f"{film.opening_id}:{density}"
        yield from self.fetcher.brought(
            Facts(subject=Subject.FILM, holder=holder, name=window.name, figures=figures, fits=density)
        )

    def _of_house(self, house: HouseColour) -> Iterator[Need]:
        """Gels round a lamp of the house; globes are not gear of the bench, and are told."""
        lamps = self.surroundings.place.house_lamps if self.surroundings else ()
        name = next((each.name for each in lamps if each.lamp_id == house.lamp_id), house.lamp_id)
        for slug in house.sheets:
            yield self._gel(slug, f"{house.lamp_id}:gel", name, *_ROUND_A_LAMP_M)
        if house.globe_k:
            self.left_out.append(f"{name} in {self.setup.name}: a globe of {house.globe_k:.0f} K, to buy")

    def _gel(self, slug: str, holder: str, name: str, width_m: float, height_m: float) -> Need:
        cut = cut_of(width_m, height_m)
        said = " × ".join(str(display.length(side, self.units)) for side in cut)
        return need("sheets", self.gear.by_slug(Sheet, slug), "gel", holder, figure=f"{name}: {said}", cut=cut)

    def _of_pass(self) -> Iterator[Need]:
        """What no single piece asks for."""
        people = {each.piece_id for each in self.setup.people}
        figures = {
            "marks": float(len(people) + sum(each.person in people for each in self.setup.positions)),
            "highest_m": max((each.z_m for each in self.setup.lamps), default=0.0),
        }
        yield from self.fetcher.brought(
            Facts(subject=Subject.PASS, holder="pass", name=self.setup.name, figures=figures)
        )


def _flag_for(gear: Gear, placed: PlacedFlag) -> Flag | None:
    """The smallest of its kind that covers it; ours before hired ones of one size."""
    able = (
        each
        for each in gear.flags
        if each.kind is placed.kind and not each.is_retired and each.covers(placed.width_m, placed.height_m)
    )
    return min(able, key=lambda each: (each.width_m * each.height_m, not each.is_owned, each.slug), default=None)
