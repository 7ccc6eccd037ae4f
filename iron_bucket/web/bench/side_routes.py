"""Two to four stacks side by side on the same work."""

from flask import g, render_template, request

from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import swatch
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import display, parse
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.side_by_side import MOST, SideRow, side_by_side, verdicts
from iron_bucket.core.setups.colour.heads_match import heads_match
from iron_bucket.desk import bench as desk
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.bench.side_pictures import level_curves, section_curves

LETTERS = "ABCD"


def _keys() -> tuple[str, ...]:
    """Stacks that the address names: whole keys, or configurations alone, which stand bare."""
    named = [key.strip() for key in request.args.getlist("with") if key.strip()]
    return tuple(key if "~" in key else f"{key}~open~none" for key in dict.fromkeys(named))


def _words(row: SideRow) -> str:
    """A stack in the crew's order: head, optic, what is on it, what stands before it."""
    pieces = (row.configuration, *row.sheets, *row.front.parts)
    return ", ".join((row.head.name, *(piece.name for piece in pieces)))


@bp.get("/side")
def side() -> tuple[str, int]:
    """Level against distance, cross-sections, through the same cloth and in the open, and which is the better tool for
    what.
    """
    words = request.args
    shelf = desk.shelf(g.session)
    packed = shelf.packed
    bad, status, width_m = None, 200, None
    throw_m, frame_key = 3.0, words.get("frame", "")
    try:
        throw_m = parse.length_m(words.get("throw") or "3 m", "distance", g.units)
        width_m = parse.length_m(words["width"], "width", g.units) if words.get("width", "").strip() else None
        need = Need(illuminance_lx=1.0, throw_m=throw_m, width_m=width_m)
        sides = side_by_side(packed, _keys(), need, frame_key)
    except BadValue as refused:
        bad, status = refused, 422
        sides = side_by_side(packed, _keys(), Need(illuminance_lx=1.0, throw_m=3.0), "")
    page = render_template(
        "bench/side.html",
        sides=sides,
        verdicts=verdicts(sides),
        letters=LETTERS,
        names={row.key: _words(row) for row in sides.rows},
        levels=level_curves(sides, g.units) if sides.rows else None,
        sections=section_curves(sides, g.units) if sides.rows else None,
        matches=[
            (row, heads_match(shelf.gear, sides.rows[0].configuration.slug, row.configuration.slug))
            for row in sides.rows[1:]
        ],
        swatch_at=lambda light, white_k: swatch(light, LightColour.of_cct(white_k)),
        bad=bad,
        too_many=len(_keys()) > MOST,
        keys=_keys(),
        throw=words.get("throw") or str(display.length(3.0, g.units)),
        width=words.get("width", ""),
        frame_key=frame_key,
        frames=[front for front in packed.fronts if front.kind is FrontKind.FRAME],
        configurations=list(zip(packed.configurations, packed.heads, strict=True)),
    )
    return page, status
