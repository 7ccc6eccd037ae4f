"""A set-up in its place with everything that follows from it: the one value that pages, sheets and lists read."""

import math
from dataclasses import dataclass, replace
from functools import cached_property

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.pass_kit import PassKit, pass_kit
from iron_bucket.core.cautions.rules import Caution, lamp_cautions
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.places.place import Place
from iron_bucket.core.setups.colour.colour_targets import ColourMiss, colour_misses
from iron_bucket.core.setups.evaluate.faces import LitFace, lit_faces
from iron_bucket.core.setups.evaluate.ladder import Ladder, ladder_of, mark_names
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.evaluate.mark_colours import MarkColour, mark_colours
from iron_bucket.core.setups.plan.setup import PLACED, Setup
from iron_bucket.core.setups.plan.throws import throws_m
from iron_bucket.core.setups.scene.build_scene import frame_parts
from iron_bucket.core.setups.sheet.amps import lamp_amps
from iron_bucket.core.setups.sheet.battery_feed import battery_cautions_of
from iron_bucket.core.setups.sheet.clearance import clearance
from iron_bucket.core.setups.sheet.load_summary import LoadSummary, load_summary


@dataclass(eq=False, kw_only=True)
class Evaluation:
    """A set-up in its place, with everything that follows from it; each part is computed when it is first asked for."""

    lit: LitScene
    gear: Gear
    rules: HouseRules

    @property
    def setup(self) -> Setup:
        """What was placed."""
        return self.lit.built.setup

    @cached_property
    def ladder(self) -> Ladder:
        """Every mark against the camera's range."""
        return ladder_of(self.lit, self.rules.receptor)

    @cached_property
    def faces(self) -> tuple[LitFace, ...]:
        """How each person is lit."""
        return lit_faces(self.lit)

    @cached_property
    def mark_names(self) -> dict[str, str]:
        """Whatever can have a target, by its mark."""
        return mark_names(self.setup, self.lit.built.surroundings.place)

    @cached_property
    def mark_colours(self) -> tuple[MarkColour, ...]:
        """The colour of the light at every mark."""
        return mark_colours(self.lit)

    @cached_property
    def colour_misses(self) -> tuple[ColourMiss, ...]:
        """Every colour target, and how it is met."""
        return colour_misses(self.lit, self.mark_names)

    @cached_property
    def kit(self) -> PassKit:
        """What has to be brought for it."""
        return pass_kit(self.setup, self.gear, self.rules, self.lit.built.surroundings)

    @cached_property
    def load(self) -> LoadSummary:
        """Amps, kilos and money of what is placed."""
        return load_summary(self.kit, self.rules)

    @cached_property
    def throws(self) -> dict[str, float]:
        """How far each lamp, frame and flag stands from what it lights."""
        return throws_m(self.setup)

    @cached_property
    def feeds(self) -> dict[str, str]:
        """Socket or battery of each lamp, in words."""
        place = self.lit.built.surroundings.place
        names = {each.socket_id: f"{each.name}, {each.circuit}" for each in place.sockets}
        names |= {each.slug: each.name for each in self.gear.batteries}
        return {lamp.piece_id: names.get(lamp.feed, "") for lamp in self.setup.lamps}

    @cached_property
    def frame_words(self) -> dict[str, str]:
        """What each frame is made of."""
        found = {}
        for frame in self.setup.frames:
            parts = frame_parts(frame, self.gear)
            found[frame.piece_id] = parts.name if isinstance(parts, Board) else f"{parts[0].name}, {parts[1].name}"
        return found

    @cached_property
    def lamp_amps(self) -> dict[str, float]:
        """Of each lamp that burns from the mains or a generator, by its id."""
        return lamp_amps(self.lit, self.gear, self.rules)

    @cached_property
    def key_mark(self) -> str | None:
        """The mark on the first person's key side; None without people."""
        person = next((each.piece_id for each in self.setup.people), "")
        place = self.lit.place_of(f"{person}.key")
        return None if place is None else self.lit.built.marks[place].mark_id

    @cached_property
    def key_stops(self) -> dict[str, float]:
        """What each light gives by itself on the first person's key side, in stops from the exposure; without people,
        or where it gives nothing, none.
        """
        place = self.lit.place_of(self.key_mark) if self.key_mark else None
        if place is None:
            return {}
        levels, wanted_lx = self.lit.by_light_lx[:, place], self.ladder.wanted_lx
        lights = zip(self.lit.built.lights, levels.tolist(), strict=True)
        return {light.light_id: math.log2(level / wanted_lx) for light, level in lights if level > DARK_LX}

    @cached_property
    def cautions(self) -> tuple[Caution, ...]:
        """What will not stand, reach or hide; then what to mind with each lamp that burns."""
        built = self.lit.built
        celsius, units = built.surroundings.place.temperature_c, self.rules.units
        of_batteries = battery_cautions_of(built.lights, self.gear, celsius, units)
        found = [*clearance(self.lit, self.gear, self.rules), *of_batteries]
        for light in self.lit.built.lights:
            if light.fixture and light.level > 0.0:
                fixture = light.fixture
                found += [
                    replace(each, title=f"{light.name}: {each.title[:1].lower()}{each.title[1:]}")
                    for each in lamp_cautions(fixture.head, fixture.parts)
                ]
        return tuple(dict.fromkeys(found))


def piece_names(setup: Setup, place: Place) -> dict[str, str]:
    """Names of all pieces by id; of targets and films what they are for."""
    marks = mark_names(setup, place)
    names = {each.piece_id: each.name for kind in PLACED for each in getattr(setup, kind)}
    names |= {each.piece_id: f"target on {marks.get(each.mark, each.mark)}" for each in setup.targets}
    names |= {each.piece_id: f"colour target on {marks.get(each.mark, each.mark)}" for each in setup.colour_targets}
    lamps = {each.lamp_id: each.name for each in place.house_lamps}
    names |= {each.piece_id: f"colour of {lamps.get(each.lamp_id, each.lamp_id)}" for each in setup.house}
    return names | {each.piece_id: f"film on {marks.get(each.opening_id, each.opening_id)}" for each in setup.films}
