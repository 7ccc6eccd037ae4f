"""What moves from one pass to the next: the move sheet, and how far the direction of the key drifts."""

import math
from dataclasses import dataclass

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.modifiers.cut_words import cut_words
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.places.bearing import turn_between
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.faces import LitFace
from iron_bucket.core.setups.plan.setup import Piece, PlacedFrame, PlacedLamp, Setup

#: What moved less was not moved.
_STILL_M, _STILL_DEG, _STILL_STOPS = 0.05, 2.0, 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Move:
    """One line of the move sheet: whose, and what is done to it."""

    name: str
    words: tuple[str, ...]


def moves(before: Setup, after: Setup, gear: Gear, units: UnitSystem) -> tuple[Move, ...]:
    """Line by line, in the order of the later pass; what is gone comes last."""
    found = [Move(name="camera", words=words)] if (words := _camera(before, after, units)) else []
    old: dict[str, Piece] = {each.piece_id: each for each in _placed(before)}
    new = {each.piece_id: each for each in _placed(after)}
    for piece_id, piece in new.items():
        if piece_id not in old:
            found.append(Move(name=piece.name, words=("bring in",)))
        elif words := _piece(old[piece_id], piece, after, gear, units):
            found.append(Move(name=piece.name, words=words))
    found += [Move(name=piece.name, words=("strike",)) for piece_id, piece in old.items() if piece_id not in new]
    return tuple(found)


def _placed(setup: Setup) -> tuple[Piece, ...]:
    return (*setup.lamps, *setup.frames, *setup.flags, *setup.people, *setup.positions)


def _camera(before: Setup, after: Setup, units: UnitSystem) -> tuple[str, ...]:
    old, new, words = before.camera, after.camera, []
    moved = math.dist((old.x_m, old.y_m), (new.x_m, new.y_m))
    if moved > _STILL_M:
        words.append(f"moves {display.length(moved, units)}")
    if old.focal_mm != new.focal_mm:
        words.append(f"{new.focal_mm:g} mm for {old.focal_mm:g}")
    was, now = before.look, after.look
    if was.t_stop != now.t_stop:
        words.append(f"T{now.t_stop:.2g} for T{was.t_stop:.2g}")
    if was.iso != now.iso:
        words.append(f"ISO {now.iso:g} for {was.iso:g}")
    if was.nd_stops != now.nd_stops:
        words.append(f"{display.stops(now.nd_stops, signed=False)} of ND for {was.nd_stops:g}")
    return tuple(words)


def _piece(old: Piece, new: Piece, setup: Setup, gear: Gear, units: UnitSystem) -> tuple[str, ...]:
    words = _moved(old, new, setup, units)
    if isinstance(old, PlacedLamp) and isinstance(new, PlacedLamp):
        words += _lamp(old, new, gear, units)
    if isinstance(old, PlacedFrame) and isinstance(new, PlacedFrame):
        names = {each.slug: each.name for each in (*gear.frames, *gear.cloths, *gear.boards)}
        words += [
            names.get(getattr(new, field), getattr(new, field))
            for field in ("frame", "cloth", "board")
            if getattr(new, field) != getattr(old, field)
        ]
    return tuple(words)


def _moved(old: Piece, new: Piece, setup: Setup, units: UnitSystem) -> list[str]:
    words = []
    apart = math.dist((old.x_m, old.y_m), (new.x_m, new.y_m))
    if apart > _STILL_M:
        subject = setup.people[0] if setup.people else None
        closer = 0.0
        if subject is not None:
            closer = math.dist((old.x_m, old.y_m), (subject.x_m, subject.y_m)) - math.dist(
                (new.x_m, new.y_m), (subject.x_m, subject.y_m)
            )
        if abs(closer) > 0.6 * apart:
            words.append(f"{display.length(abs(closer), units)} {'closer' if closer > 0 else 'farther'}")
        else:
            words.append(f"{display.length(apart, units)} aside")
    if abs(new.z_m - old.z_m) > _STILL_M:
        words.append(f"{display.length(abs(new.z_m - old.z_m), units)} {'up' if new.z_m > old.z_m else 'down'}")
    follows = isinstance(new, PlacedLamp) and new.aims_at
    if not follows and abs(turn_between(old.bearing_deg, new.bearing_deg)) > _STILL_DEG:
        words.append(f"turned {abs(turn_between(old.bearing_deg, new.bearing_deg)):.0f}°")
    return words


def _lamp(old: PlacedLamp, new: PlacedLamp, gear: Gear, units: UnitSystem) -> list[str]:
    words: list[str] = []
    if old.is_on != new.is_on:
        words.append("on" if new.is_on else "off")
    stops = math.log2(new.level / old.level)
    if abs(stops) > _STILL_STOPS and new.is_on:
        words.append(str(display.stops(stops)))
    names = {each.slug: each.name for each in gear.items()}
    if old.configuration != new.configuration:
        words.append(names.get(new.configuration, new.configuration))
    words += [f"{names.get(slug, slug)} on" for slug in new.sheets if slug not in old.sheets]
    words += [f"{names.get(slug, slug)} off" for slug in old.sheets if slug not in new.sheets]
    for field, what in (("face", "box"), ("grid", "grid")):
        if getattr(old, field) != getattr(new, field):
            words.append(names.get(getattr(new, field), f"no {what}"))
    cut = new.cut(ScrimSchool.HALF_AND_ONE)
    if cut != old.cut(ScrimSchool.HALF_AND_ONE):
        words += cut_words(cut, units) or ["nothing cuts its beam"]
    if old.cct_k != new.cct_k and new.cct_k:
        words.append(f"{new.cct_k:.0f} K")
    return words


@dataclass(frozen=True, slots=True, kw_only=True)
class Drift:
    """How far the key's direction on a person turned between two passes, seen from the picture: around, and up."""

    name: str
    around_deg: float
    up_deg: float


def drifts(before: tuple[LitFace, ...], after: tuple[LitFace, ...]) -> tuple[Drift, ...]:
    """For every person in both passes.

    The direction is that in the room, so that a camera that moves does not count as a lamp that does.
    """
    old = {face.person.piece_id: face for face in before}
    return tuple(
        Drift(
            name=face.person.name,
            around_deg=turn_between(old[face.person.piece_id].bearing_deg, face.bearing_deg),
            up_deg=face.height_deg - old[face.person.piece_id].height_deg,
        )
        for face in after
        if face.person.piece_id in old
    )
