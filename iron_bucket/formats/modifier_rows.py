"""Each kind of modifier as one flat row and back."""

from typing import Any

from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import (
    Board,
    Cloth,
    ClothSize,
    Face,
    FaceForm,
    Frame,
    GelCondition,
    Grid,
    Offcut,
    Optic,
    Sheet,
    SheetKind,
)
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row, figure_row, item_fields, item_row, kept


def sheet_of(fields: Fields) -> Sheet:
    """A gel, ND, scrim or net; without a transmittance the house school's holds."""
    measured = fields.has("transmittance")
    fields.has("transmittance_origin")
    return Sheet(
        **item_fields(fields),
        kind=fields.choice("kind", SheetKind),
        transmittance=fields.figure("transmittance") if measured else None,
        shift_mired=fields.number("shift_mired", 0.0),
        tint=fields.number("tint", 0.0),
        layers=fields.whole("layers", 0),
        ring_mm=fields.number("ring_mm", 0.0),
        straight_share=fields.perhaps("straight_share"),
        lobe_deg=fields.perhaps("lobe_deg"),
        stock_w_m=fields.number("stock_w_m", 0.0),
        stock_l_m=fields.number("stock_l_m", 0.0),
        is_heat_rated=fields.yes("is_heat_rated"),
        offcuts=_offcuts(fields.word("offcuts", "")),
    )


def sheet_row(sheet: Sheet) -> Row:
    """The same as a row."""
    return {
        **item_row(sheet),
        "kind": sheet.kind.value,
        **figure_row("transmittance", sheet.transmittance),
        "shift_mired": sheet.shift_mired,
        "tint": sheet.tint,
        "layers": sheet.layers,
        "ring_mm": sheet.ring_mm,
        "straight_share": sheet.straight_share,
        "lobe_deg": sheet.lobe_deg,
        **kept({"stock_w_m": sheet.stock_w_m, "stock_l_m": sheet.stock_l_m}),
        **kept({"is_heat_rated": sheet.is_heat_rated}),
        **kept({"offcuts": ";".join(f"{o.width_m:g}x{o.length_m:g} {o.condition.value}" for o in sheet.offcuts)}),
    }


def _size(fields: Fields) -> dict[str, Any]:
    return {"width_m": fields.number("width_m"), "height_m": fields.number("height_m")}


def _size_row(sized: Face | Frame | Board) -> Row:
    return {"width_m": sized.width_m, "height_m": sized.height_m}


def face_of(fields: Fields) -> Face:
    """A box or lantern."""
    return Face(
        **item_fields(fields),
        **_size(fields),
        fitting=fields.word("fitting"),
        form=fields.choice("form", FaceForm),
        efficiency=fields.figure("efficiency"),
        shift_mired=fields.number("shift_mired", 0.0),
        hottest_w=fields.number("hottest_w", 0.0),
    )


def face_row(face: Face) -> Row:
    """The same as a row."""
    return {
        **item_row(face),
        **_size_row(face),
        "fitting": face.fitting,
        "form": face.form.value,
        **figure_row("efficiency", face.efficiency),
        "shift_mired": face.shift_mired,
        "hottest_w": face.hottest_w,
    }


def grid_of(fields: Fields) -> Grid:
    """A honeycomb or fabric grid."""
    return Grid(
        **item_fields(fields),
        fitting=fields.word("fitting", ""),
        cutoff_deg=fields.number("cutoff_deg"),
        on_axis=fields.figure("on_axis"),
        face_slug=fields.word("face_slug", ""),
    )


def grid_row(grid: Grid) -> Row:
    """The same as a row."""
    return {
        **item_row(grid),
        "fitting": grid.fitting,
        "cutoff_deg": grid.cutoff_deg,
        **figure_row("on_axis", grid.on_axis),
        "face_slug": grid.face_slug,
    }


def _offcuts(text: str) -> tuple[Offcut, ...]:
    """``0.6x0.3 good;0.4x0.4 creased``: width, length and condition."""
    found = []
    for part in filter(None, (each.strip() for each in text.split(";"))):
        try:
            size, _, condition = part.partition(" ")
            width_m, length_m = size.split("x")
            state = GelCondition(condition.strip() or GelCondition.GOOD)
            found.append(Offcut(width_m=float(width_m), length_m=float(length_m), condition=state))
        except ValueError as bad:
            if isinstance(bad, BadValue):
                raise
            raise BadValue("offcuts", repr(part), "width x length and condition, such as 0.6x0.3 good") from None
    return tuple(found)


def cloth_of(fields: Fields) -> Cloth:
    """A cloth for frames."""
    return Cloth(
        **item_fields(fields),
        transmittance=fields.figure("transmittance"),
        straight_share=fields.number("straight_share", 0.0),
        lobe_deg=fields.number("lobe_deg", 90.0),
        shift_mired=fields.number("shift_mired", 0.0),
        widest_m=fields.number("widest_m", 6.0),
        sizes=_sizes(fields.word("sizes", "")),
    )


def _sizes(text: str) -> tuple[ClothSize, ...]:
    """``1.2x1.2=2;1.8x1.8=1``: width, height and how many are ours."""
    sizes = []
    for part in filter(None, text.replace(" ", "").split(";")):
        try:
            size, owned = part.split("=")
            width_m, height_m = size.split("x")
            sizes.append(ClothSize(width_m=float(width_m), height_m=float(height_m), owned=int(owned)))
        except ValueError as bad:
            if isinstance(bad, BadValue):
                raise
            raise BadValue("sizes", repr(part), "width x height = how many, such as 1.2x1.2=2;1.8x1.8=1") from None
    return tuple(sizes)


def cloth_row(cloth: Cloth) -> Row:
    """The same as a row."""
    return {
        **item_row(cloth),
        **figure_row("transmittance", cloth.transmittance),
        "straight_share": cloth.straight_share,
        "lobe_deg": cloth.lobe_deg,
        "shift_mired": cloth.shift_mired,
        "widest_m": cloth.widest_m,
        **kept({"sizes": ";".join(f"{each.width_m:g}x{each.height_m:g}={each.owned}" for each in cloth.sizes)}),
    }


def board_of(fields: Fields) -> Board:
    """A bounce."""
    return Board(
        **item_fields(fields),
        **_size(fields),
        reflectance=fields.figure("reflectance"),
        lobe_deg=fields.number("lobe_deg", 90.0),
        shift_mired=fields.number("shift_mired", 0.0),
    )


def board_row(board: Board) -> Row:
    """The same as a row."""
    return {
        **item_row(board),
        **_size_row(board),
        **figure_row("reflectance", board.reflectance),
        "lobe_deg": board.lobe_deg,
        "shift_mired": board.shift_mired,
    }


def frame_of(fields: Fields) -> Frame:
    """An empty frame."""
    return Frame(**item_fields(fields), **_size(fields), tube_m=fields.number("tube_m", 0.0))


def frame_row(frame: Frame) -> Row:
    """The same as a row."""
    return {**item_row(frame), **_size_row(frame), **kept({"tube_m": frame.tube_m})}


def optic_of(fields: Fields) -> Optic:
    """A reflector or lens."""
    return Optic(**item_fields(fields), fitting=fields.word("fitting"))


def optic_row(optic: Optic) -> Row:
    """The same as a row."""
    return {**item_row(optic), "fitting": optic.fitting}
