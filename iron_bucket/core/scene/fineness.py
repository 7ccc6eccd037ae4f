"""How finely a scene is cut."""

from dataclasses import dataclass, replace


@dataclass(frozen=True, slots=True, kw_only=True)
class Fineness:
    """``frame_points``: along each side of a frame for what lamps lay on it, at least; narrow or near beams take more.
    ``wall_frame_points``: the same for what it sends to the many places of the walls; ``series_points``: for what
    frames, flags and walls send each other; ``lobed_points``: for what frost and silver make of that, at least.

    ``fine_walls``: patches whose fine pieces stand for themselves when a frame looks at a wall; the others are even.
    ``wall_patches``: coarse patches along each side of a wall of a box, where no grid is at hand;
    ``splits_shadows``: fine pieces of a wall on the edge of a shadow are looked at in parts;
    ``is_smooth``: what windows and the sky lay on walls is looked at on the coarse patches; ``broad_lobe_deg``: so is
    what frames and boards do that scatter at least so widely (measured: within 0.003 stop from 10 degrees on).
    ``splits_suns``: patches of walls that the sun falls on in part are looked at in parts.
    """

    frame_points: int
    wall_frame_points: int
    series_points: int
    lobed_points: int
    fine_walls: int
    wall_patches: int
    splits_shadows: bool
    is_smooth: bool
    broad_lobe_deg: float
    splits_suns: bool = True


#: What the reference cases ask for.
REFERENCE = Fineness(
    frame_points=31,
    wall_frame_points=15,
    series_points=21,
    lobed_points=9,
    fine_walls=10_000,
    wall_patches=10,
    splits_shadows=True,
    is_smooth=False,
    broad_lobe_deg=91.0,
)
#: On a set: within a hundredth of a stop for wide beams, and quick.
SET = Fineness(
    frame_points=9,
    wall_frame_points=7,
    series_points=4,
    lobed_points=9,
    fine_walls=12,
    wall_patches=7,
    splits_shadows=False,
    is_smooth=True,
    broad_lobe_deg=10.0,
)
#: While something moves.
PASSING = replace(SET, frame_points=5, wall_frame_points=5, series_points=3, lobed_points=5, fine_walls=0)
