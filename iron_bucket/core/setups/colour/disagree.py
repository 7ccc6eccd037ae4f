"""Make two groups of lights disagree on purpose: so many mired and so much tint between them, and what is too much."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.colour.bands import bands_of
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import Seen, seen_against
from iron_bucket.core.errors import BadValue
from iron_bucket.core.setups.colour.agree import Scene, SourcePlan, brought, sources_of, told_apart, with_changes
from iron_bucket.core.setups.evaluate.mark_colours import MarkColour, mark_colours
from iron_bucket.core.setups.plan.changes import Change
from iron_bucket.core.typical import typical

#: From here on a face is hard to bring back. Source: docs/craft.md, section 5; the figures typical.
TOO_COOL_MIRED, TOO_GREEN_DUV, TOO_SATURATED_DUV = -100.0, 0.008, 0.02
#: A band so many stops below green, both told by the white balance, is noise when it is lifted.
_LOST_STOPS = 3.0
_BANDS = ("red", "green", "blue")


@dataclass(frozen=True, slots=True, kw_only=True)
class Contrast:
    """Of each group, how far it shall be off the white balance: above 0 warmer, and greener."""

    name: str
    cool: Seen
    warm: Seen

    @property
    def mired(self) -> float:
        """Between the two."""
        return self.warm.mired - self.cool.mired

    def wider(self, mired: float) -> "Contrast":
        """About the same middle, so many mired apart."""
        middle = (self.cool.mired + self.warm.mired) / 2.0
        cool, warm = replace(self.cool, mired=middle - mired / 2.0), replace(self.warm, mired=middle + mired / 2.0)
        return replace(self, cool=cool, warm=warm)


def contrasts() -> tuple[Contrast, ...]:
    """Those of the trade."""
    return tuple(
        Contrast(name=name, cool=Seen(mired=cool, duv=cool_duv), warm=Seen(mired=warm, duv=warm_duv))
        for name, (cool, warm, cool_duv, warm_duv) in typical("contrasts").items()
    )


def after_a_practical(practical: LightColour, white: LightColour, cool: Seen) -> Contrast:
    """The warm group is as warm as a lamp that is seen. Raises: BadValue for one that is no shade of white."""
    if not practical.is_white:
        raise BadValue("practical", "a saturated colour", "a shade of white")
    return Contrast(name="after a practical", cool=cool, warm=seen_against(practical, white))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Disagreement:
    """``sources``: each light of both groups with the way it is taken there; ``reached``: mired between the groups as
    they will be; ``warnings``: what is too much, each with its figure.
    """

    contrast: Contrast
    sources: tuple[SourcePlan, ...]
    changes: tuple[Change, ...]
    reached: float
    marks: tuple[MarkColour, ...]
    warnings: tuple[str, ...]


def disagreeing(scene: Scene, contrast: Contrast, groups: Mapping[str, bool], tolerance: float) -> Disagreement:
    """``groups``: by the ids of lights, whether they are of the warm group; others are left alone.

    Raises: BadValue where a group has no light that burns.
    """
    white = scene.lit.built.setup.look.white
    targets = {
        is_warm: white.shifted(wanted.mired, wanted.duv)
        for is_warm, wanted in ((False, contrast.cool), (True, contrast.warm))
    }
    sources, members = [], []
    for light, share in sources_of(scene.lit):
        if light.light_id not in groups:
            continue
        sources.append(brought(light, share, scene.asked(targets[groups[light.light_id]], tolerance)))
        members.append(groups[light.light_id])
    for is_warm, word in ((False, "cool"), (True, "warm")):
        if is_warm not in members:
            raise BadValue(f"{word} group", "empty", "one light at least that burns in each of the two groups")
    changes = tuple(told_apart(scene, tuple(sources)))
    marks = mark_colours(with_changes(scene, changes))
    means = [
        float(np.mean([each.taken.colour.mired for each, of in zip(sources, members, strict=True) if of is is_warm]))
        for is_warm in (False, True)
    ]
    return Disagreement(
        contrast=contrast,
        sources=tuple(sources),
        changes=changes,
        reached=means[1] - means[0],
        marks=marks,
        warnings=tuple(warning for mark in marks for warning in warnings_of(mark, white)),
    )


def warnings_of(mark: MarkColour, white: LightColour) -> tuple[str, ...]:
    """Of a side of a face, what is too blue, too green, too saturated for skin, or beyond any grading."""
    if mark.colour is None or "." not in mark.mark_id:
        return ()
    seen, found = seen_against(mark.colour, white), []
    if not mark.colour.is_white or abs(seen.duv) > TOO_SATURATED_DUV:
        found.append(f"{mark.name}: too saturated for skin, Duv {seen.duv:+.3f} off white")
    elif abs(seen.duv) > TOO_GREEN_DUV:
        word = "green" if seen.duv > 0.0 else "magenta"
        found.append(f"{mark.name}: too {word} for skin, Duv {seen.duv:+.3f} off white, {TOO_GREEN_DUV:.3f} is plenty")
    if mark.colour.is_white and seen.mired < TOO_COOL_MIRED:
        found.append(
            f"{mark.name}: {-seen.mired:.0f} mired cool; beyond {-TOO_COOL_MIRED:.0f} night is easily overdone"
        )
    lost = lost_bands(mark.colour, white)
    found += [
        f"{mark.name}: {stops:.1f} stops less {band} than white has; no grading brings it back" for band, stops in lost
    ]
    return tuple(found)


def lost_bands(colour: LightColour, white: LightColour) -> tuple[tuple[str, float], ...]:
    """Bands with so little light that nothing but noise is there to be lifted: by how many stops below the brightest,
    both against the white balance.
    """
    given = bands_of(colour.uv) / np.maximum(bands_of(white.uv), 1e-3)
    stops = np.log2(np.maximum(given.max(), 1e-6) / np.maximum(given, 1e-6))
    return tuple((band, float(each)) for band, each in zip(_BANDS, stops, strict=True) if each > _LOST_STOPS)
