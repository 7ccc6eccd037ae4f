"""Everything placed as a sign on the plan: where it stands, which way it looks, its letter or name."""

from dataclasses import dataclass

from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.colour.seen import seen_against, swatch
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.plan.setup import PLACED, PlacedFlag, PlacedFrame
from iron_bucket.core.setups.scene.build_scene import aimed, frame_size_m
from iron_bucket.web.shared.letters import letters_of
from iron_bucket.web.shared.pictures.plan import CM, Paper


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnPiece:
    """Anything placed: where, which way it looks (degrees clockwise), what it is called. ``shape`` says which mark is
    drawn; ``letter`` what lamps, frames and flags are called on plan, strip and table.

    ``half`` and ``length`` in units: half the width of a flat thing; ``colour``: of its light, or of the light on it,
    against the white balance.
    """

    piece_id: str
    where: str
    shape: str
    name: str
    words: str
    x: float
    y: float
    bearing: float
    x_m: float
    y_m: float
    z_m: float
    letter: str = ""
    half: float = 0.0
    colour: str = ""
    is_on: bool = True
    is_locked: bool = False
    group: str = ""
    notes: tuple[str, ...] = ()
    is_named: bool = True

    @property
    def label(self) -> str:
        """What stands beside its sign: a letter, or a name with its stops."""
        return self.letter or " ".join((self.name, " / ".join(self.notes))).strip()


def drawn_pieces(now: Evaluation, paper: Paper, units: UnitSystem) -> tuple[DrawnPiece, ...]:
    """The camera, then all that is placed."""
    setup, colours, letters = now.setup, light_colours(now), letters_of(now.setup, now.gear)
    camera = setup.camera
    x, y = paper.at(camera.x_m, camera.y_m)
    found = [
        DrawnPiece(
            piece_id="camera",
            where="camera",
            shape="camera",
            name="Camera",
            words=f"{camera.focal_mm:g} mm, {display.length(camera.z_m, units)} high",
            x=x,
            y=y,
            bearing=camera.bearing_deg,
            x_m=camera.x_m,
            y_m=camera.y_m,
            z_m=camera.z_m,
            notes=(f"{camera.focal_mm:g} mm",),
        )
    ]
    marks = mark_swatches(now)
    sides = {rung.mark_id: rung for rung in now.ladder.rungs}
    for where in PLACED:
        for piece in getattr(setup, where):
            x, y = paper.at(piece.x_m, piece.y_m)
            bearing, half = piece.bearing_deg, 0.0
            notes: tuple[str, ...] = ()
            words = f"{display.length(piece.z_m, units)} high"
            shape = {"people": "person", "positions": "position", "spots": "spot", "lamps": "lamp"}.get(where, where)
            if where == "lamps":
                bearing = aimed(setup, piece)[0]
                words = f"at {display.share(piece.level)}, {words}" if piece.is_on else f"off, {words}"
            elif where == "people":
                notes = tuple(
                    display.stops(sides[mark].stops).value
                    for mark in (f"{piece.piece_id}.key", f"{piece.piece_id}.shadow")
                    if mark in sides
                )
            elif where == "spots" and piece.piece_id in sides:
                notes = (display.stops(sides[piece.piece_id].stops).value,)
            elif isinstance(piece, PlacedFrame):
                half, shape = frame_size_m(piece, now.gear)[0] / 2.0 * CM, "board" if piece.board else "cloth"
            elif isinstance(piece, PlacedFlag):
                half, shape = (
                    piece.width_m / 2.0 * CM,
                    "net" if piece.kind in (FlagKind.SINGLE_NET, FlagKind.DOUBLE_NET) else "flag",
                )
            seen = marks.get(f"{piece.piece_id}.key" if where == "people" else piece.piece_id)
            found.append(
                DrawnPiece(
                    piece_id=piece.piece_id,
                    where=where,
                    shape=shape,
                    name=piece.name,
                    words=f"{words}, {seen[1]}" if seen else words,
                    x=x,
                    y=y,
                    bearing=round(bearing, 1),
                    x_m=piece.x_m,
                    y_m=piece.y_m,
                    z_m=piece.z_m,
                    letter=letters.get(piece.piece_id, ""),
                    half=round(half, 1),
                    colour=seen[0] if seen else colours.get(piece.piece_id, ""),
                    is_on=getattr(piece, "is_on", True),
                    is_locked=piece.is_locked,
                    group=piece.group,
                    notes=notes,
                )
            )
    return tuple(found)


def moved_pieces(kept: Evaluation, tried: Evaluation, paper: Paper, units: UnitSystem) -> tuple[DrawnPiece, ...]:
    """What would stand otherwise, or is not there yet, where it would stand."""

    def stance(piece: DrawnPiece) -> tuple[object, ...]:
        return piece.piece_id, piece.x, piece.y, piece.bearing, piece.half, piece.shape

    before = {stance(piece) for piece in drawn_pieces(kept, paper, units)}
    return tuple(piece for piece in drawn_pieces(tried, paper, units) if stance(piece) not in before)


def light_colours(now: Evaluation) -> dict[str, str]:
    """Of every light, by its id, against the white balance."""
    white = now.setup.look.white
    return {light.light_id: swatch(light.colour, white) for light in now.lit.built.lights}


def mark_swatches(now: Evaluation) -> dict[str, tuple[str, str]]:
    """Of every rung of the ladder whose mark is lit: its colour against the white balance, and the same in words."""
    white, found = now.setup.look.white, {}
    for rung in now.ladder.rungs:
        place = now.lit.place_of(rung.mark_id)
        colour = now.mark_colours[place].colour if place is not None else None
        if colour is not None:
            found[rung.mark_id] = swatch(colour, white), seen_against(colour, white).words
    return found
