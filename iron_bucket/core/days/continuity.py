"""Whether two shots cut: the key's level, direction, colour, contrast and softness on each person, and what would close
what differs.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from iron_bucket.core.colour.seen import HARDLY_DUV, seen_against
from iron_bucket.core.places.bearing import turn_between
from iron_bucket.core.quantities.display import signed
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.setups.evaluate.faces import LitFace, lit_faces
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.evaluate.mark_colours import mark_colours
from iron_bucket.core.setups.plan.setup import TYPICAL_TOLERANCE_MIRED

#: Nobody minds less, typical: in stops, degrees around and up, and how many times as soft.
SEEN_STOPS, SEEN_DEG, SEEN_SOFTER = 1.0 / 3.0, 15.0, 1.5
_SEEN_MIRED, _SEEN_DUV = TYPICAL_TOLERANCE_MIRED, 2.0 * HARDLY_DUV


@dataclass(frozen=True, slots=True, kw_only=True)
class Difference:
    """One thing on one person: how it was, how it is, and what would close it; ``is_seen``: more than nobody minds."""

    name: str
    what: str
    was: str
    now: str
    is_seen: bool
    closes: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class MatchSheet:
    """All of everybody who is in both shots."""

    differences: tuple[Difference, ...]

    @property
    def seen(self) -> tuple[Difference, ...]:
        """Those that would be seen in the cut."""
        return tuple(each for each in self.differences if each.is_seen)


def match_sheet(before: LitScene, after: LitScene) -> MatchSheet:
    """The later shot against the one that is there already."""
    old = {face.person.piece_id: face for face in lit_faces(before)}
    found = [
        each
        for face in lit_faces(after)
        if face.person.piece_id in old
        for each in _of(old[face.person.piece_id], face, before, after)
    ]
    return MatchSheet(differences=tuple(found))


def _of(old: LitFace, new: LitFace, before: LitScene, after: LitScene) -> Iterator[Difference]:
    name = new.person.name
    was, now = _exposed(old, before), _exposed(new, after)
    off = now - was
    yield Difference(
        name=name,
        what="level of the key",
        was=f"{signed(was, 1)} stops",
        now=f"{signed(now, 1)} stops",
        is_seen=not at_most(abs(off), SEEN_STOPS),
        closes=f"{abs(off):.1f} stops {'less' if off > 0 else 'more'} of {new.key_light}",
    )
    around, up = turn_between(old.bearing_deg, new.bearing_deg), new.height_deg - old.height_deg
    yield Difference(
        name=name,
        what="direction of the key",
        was=f"{old.bearing_deg % 360.0:.0f}°, {old.height_deg:.0f}° up",
        now=f"{new.bearing_deg % 360.0:.0f}°, {new.height_deg:.0f}° up",
        is_seen=abs(around) > SEEN_DEG or abs(up) > SEEN_DEG,
        closes=f"{new.key_light} {abs(around):.0f}° {'back' if around > 0 else 'on'} around,"
        f" {abs(up):.0f}° {'down' if up > 0 else 'up'}",
    )
    yield from _colour(name, old, new, before, after)
    contrast, then = _contrast(old), _contrast(new)
    yield Difference(
        name=name,
        what="contrast",
        was=f"{contrast:.1f} stops",
        now=f"{then:.1f} stops",
        is_seen=not at_most(abs(then - contrast), SEEN_STOPS),
        closes=f"{'more' if then > contrast else 'less'} on the shadow side",
    )
    softer = max(new.apparent_deg, 0.1) / max(old.apparent_deg, 0.1)
    yield Difference(
        name=name,
        what="softness",
        was=f"{old.apparent_deg:.0f}°, edge {old.edge_m * 1000.0:.0f} mm",
        now=f"{new.apparent_deg:.0f}°, edge {new.edge_m * 1000.0:.0f} mm",
        is_seen=not 1.0 / SEEN_SOFTER <= softer <= SEEN_SOFTER,
        closes=f"a source {1.0 / softer:.1f} times as large" if softer < 1.0 else f"a source 1/{softer:.1f} as large",
    )


def _exposed(face: LitFace, lit: LitScene) -> float:
    """In stops from the exposure of its shot: a stop of the lens is a stop of the lamp."""
    return math.log2(max(face.key_lx, DARK_LX) / lit.built.setup.look.wanted_lx(lit.built.receptor))


def _contrast(face: LitFace) -> float:
    return math.log2(max(face.key_lx, DARK_LX) / max(face.shadow_lx, DARK_LX))


def _colour(name: str, old: LitFace, new: LitFace, before: LitScene, after: LitScene) -> Iterator[Difference]:
    """Each against the white balance of its own shot."""
    seen = []
    for face, lit in ((old, before), (new, after)):
        marks = {mark.mark_id: mark.colour for mark in mark_colours(lit)}
        colour = marks.get(f"{face.person.piece_id}.{face.key_side}")
        seen.append(seen_against(colour, lit.built.setup.look.white) if colour else None)
    was, now = seen
    if was is None or now is None or math.isnan(was.mired) or math.isnan(now.mired):
        return
    warmer, greener = now.mired - was.mired, now.duv - was.duv
    words = [f"{abs(warmer):.0f} mired {'cooler' if warmer > 0 else 'warmer'}"] if abs(warmer) >= _SEEN_MIRED else []
    words += [f"Duv {-greener:+.3f}"] if abs(greener) >= _SEEN_DUV else []
    yield Difference(
        name=name, what="colour of the key", was=was.words, now=now.words, is_seen=bool(words), closes=", ".join(words)
    )
