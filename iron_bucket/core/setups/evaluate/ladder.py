"""Every mark against the camera's range: the stop ladder, and which targets are missed."""

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.places.place import Place
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.plan.camera_view import camera_position, in_view
from iron_bucket.core.setups.plan.look import luminance_stops, surface_stops
from iron_bucket.core.setups.plan.setup import Setup, Target
from iron_bucket.core.setups.scene.build_scene import Side

_SAID = {"key": "key side", "shadow": "shadow side", "back": "back edge", "top": "top"}
#: Nothing on the ladder hangs lower.
DEEPEST_STOPS = -16.0


class RungKind(StrEnum):
    FACE = "face"
    SURFACE = "surface"
    WINDOW = "window"


@dataclass(frozen=True, slots=True, kw_only=True)
class Rung:
    """``stops`` from middle exposure: a face as its incident reading, a surface with what it reflects, a window with
    what shows through it.

    ``miss_stops``: above 0 is brighter than its target, None without one.
    """

    mark_id: str
    name: str
    kind: RungKind
    stops: float
    illuminance_lx: float | None
    target: Target | None = None
    miss_stops: float | None = None

    @property
    def is_missed(self) -> bool:
        """Whether it lies outside the tolerance of its target."""
        return self.target is not None and self.miss_stops is not None and abs(self.miss_stops) > self.target.tolerance


@dataclass(frozen=True, slots=True, kw_only=True)
class Ladder:
    """``above`` and ``below``: where the camera clips and where its floor is. ``lost``: targets whose mark is gone."""

    rungs: tuple[Rung, ...]
    above: float
    below: float
    wanted_lx: float
    lost: tuple[Target, ...] = ()

    def rung(self, mark_id: str) -> Rung | None:
        """The one of that name."""
        return next((each for each in self.rungs if each.mark_id == mark_id), None)

    @property
    def missed(self) -> tuple[Rung, ...]:
        """All outside the tolerance of their targets."""
        return tuple(each for each in self.rungs if each.is_missed)

    @property
    def worst(self) -> Rung | None:
        """The one that is farthest off its target, of those that are missed."""
        return max(self.missed, key=lambda each: abs(each.miss_stops or 0.0), default=None)


def mark_names(setup: Setup, place: Place) -> dict[str, str]:
    """Everything that can hang on the ladder, by its mark: sides of people, spots, windows."""
    faces = {
        f"{person.piece_id}.{side}": f"{person.name} {said}" for person in setup.people for side, said in _SAID.items()
    }
    spots = {each.piece_id: each.name for each in setup.spots}
    return faces | spots | {each.opening_id: each.name for room in place.rooms for each in room.openings}


def ladder_of(lit: LitScene, receptor: Receptor) -> Ladder:
    """Key side, shadow side, back edge and top of every person, every spot, and every window in the picture."""
    setup = lit.built.setup
    wanted = setup.look.wanted_lx(receptor)
    rungs = [*_faces(lit, wanted), *_spots(lit, wanted), *_windows(lit, wanted)]
    targets = {target.mark: target for target in setup.targets}
    hung = []
    for rung in rungs:
        target = targets.pop(rung.mark_id, None)
        miss = None if target is None else rung.stops - target.stops
        hung.append(
            Rung(
                mark_id=rung.mark_id,
                name=rung.name,
                kind=rung.kind,
                stops=rung.stops,
                illuminance_lx=rung.illuminance_lx,
                target=target,
                miss_stops=miss,
            )
        )
    return Ladder(
        rungs=tuple(hung),
        above=setup.look.clip_stops,
        below=setup.look.floor_stops,
        wanted_lx=wanted,
        lost=tuple(targets.values()),
    )


def _faces(lit: LitScene, wanted_lx: float) -> list[Rung]:
    total = lit.total_lx
    found = []
    for person in lit.built.setup.people:
        key, shadow = lit.key_and_shadow(person.piece_id)
        for word, side in zip(_SAID, (key, shadow, Side.BACK, Side.TOP), strict=True):
            place = lit.built.mark_index(f"{person.piece_id}.{side}")
            if place is None:
                continue
            level = float(total[place])
            found.append(
                Rung(
                    mark_id=f"{person.piece_id}.{word}",
                    name=f"{person.name} {_SAID[word]}",
                    kind=RungKind.FACE,
                    stops=max(math.log2(max(level, DARK_LX) / wanted_lx), DEEPEST_STOPS),
                    illuminance_lx=level,
                )
            )
    return found


def _spots(lit: LitScene, wanted_lx: float) -> list[Rung]:
    total = lit.total_lx
    return [
        Rung(
            mark_id=mark.mark_id,
            name=mark.name,
            kind=RungKind.SURFACE,
            stops=max(surface_stops(mark.reflectance, float(total[at]), wanted_lx), DEEPEST_STOPS),
            illuminance_lx=float(total[at]),
        )
        for at, mark in enumerate(lit.built.marks)
        if mark.reflectance is not None
    ]


def _windows(lit: LitScene, wanted_lx: float) -> list[Rung]:
    """Windows that the camera sees: their middle in the picture, from inside, with no wall between."""
    setup, found = lit.built.setup, []
    for light in lit.built.lights:
        if not isinstance(light.light, Window) or light.level <= 0.0:
            continue
        panel = light.light.panel
        spots = panel.centre_m + np.array([[dx, dy] for dx in (-0.4, 0.0, 0.4) for dy in (-0.4, 0.0, 0.4)]) @ np.array(
            [panel.width_m * panel.side_x, panel.height_m * panel.side_y]
        )
        eye = camera_position(setup.camera)
        inside = float((eye - panel.centre_m) @ panel.normal) > 0.0
        if (
            not inside
            or not (
                in_view(setup.camera, setup.look, spots)
                & (passing(eye[None], spots, lit.built.surroundings.laid_walls)[0] > 0.0)
            ).any()
        ):
            continue
        seen = light.light.seen_from_cd_m2(eye) * light.level
        found.append(
            Rung(
                mark_id=light.light_id,
                name=light.name,
                kind=RungKind.WINDOW,
                stops=luminance_stops(seen, wanted_lx),
                illuminance_lx=None,
            )
        )
    return found
