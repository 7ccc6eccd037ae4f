"""Each kind of gear as one flat row and back: the same keys in JSON, in CSV headings and in the database."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.configuration import Configuration, EmittingFace, FaceShape
from iron_bucket.core.bench.head import BatteryPlate, Head, MainsRange, Technology
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.stand import Stand
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, FaceForm, Frame, Grid, Optic, Sheet, SheetKind
from iron_bucket.core.photometry.distribution import BeamField, CosinePower, IntensityDistribution
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.core.power.load import Draw, DrawCurve
from iron_bucket.formats.fields import Fields

Row = dict[str, Any]


def _item(fields: Fields) -> dict[str, Any]:
    return {
        "slug": fields.word("slug"),
        "name": fields.word("name"),
        "maker": fields.word("maker", ""),
        "weight_kg": fields.number("weight_kg"),
        "day_price": fields.perhaps("day_price"),
        "owned": fields.whole("owned", 0),
    }


def _item_row(item: Item) -> Row:
    return {
        "slug": item.slug,
        "name": item.name,
        "maker": item.maker,
        "weight_kg": item.weight_kg,
        "day_price": item.day_price,
        "owned": item.owned,
    }


def _figure_row(key: str, figure: Figure | None) -> Row:
    if figure is None:
        return {}
    return {key: figure.value, f"{key}_origin": figure.origin.value}


def _plates(text: str) -> tuple[BatteryPlate, ...]:
    """``v-lock:2:0.6;d-tap:1:1``: mount, plates, share of full output."""
    plates = []
    for part in filter(None, text.split(";")):
        try:
            mount, count, limit = part.split(":")
            plates.append(BatteryPlate(mount=mount, plates=int(count), level_limit=float(limit)))
        except ValueError as bad:
            if isinstance(bad, BadValue):
                raise
            raise BadValue(
                "battery_plates", repr(part)[:40], "mount:plates:share of full output, such as v-lock:2:0.6"
            ) from None
    return tuple(plates)


def head_of(fields: Fields) -> Head:
    """A head from its row."""
    mains = (
        MainsRange(low_v=fields.number("mains_low_v"), high_v=fields.number("mains_high_v"))
        if fields.has("mains_low_v")
        else None
    )
    fields.perhaps("mains_high_v")
    return Head(
        **_item(fields),
        technology=fields.choice("technology", Technology),
        lumens=fields.figure("lumens"),
        draw=Draw(
            full_w=fields.figure("full_w"),
            idle_w=fields.number("idle_w", 0.0),
            power_factor=fields.number("power_factor", 1.0),
            curve=fields.choice("curve", DrawCurve, DrawCurve.ELECTRONIC),
        ),
        lowest_cct_k=fields.number("lowest_cct_k"),
        highest_cct_k=fields.number("highest_cct_k"),
        tint=fields.number("tint", 0.0),
        lowest_level=fields.number("lowest_level", 1.0),
        mains=mains,
        battery_plates=_plates(fields.word("battery_plates", "")),
        fan_db=fields.number("fan_db", 0.0),
        fitting=fields.word("fitting", ""),
        scrim_ring_mm=fields.number("scrim_ring_mm", 0.0),
        takes_gel=fields.yes("takes_gel", True),
        spigot_mm=fields.number("spigot_mm", 16.0),
        is_hot=fields.yes("is_hot"),
        warm_up_min=fields.number("warm_up_min", 0.0),
    )


def head_row(head: Head) -> Row:
    """A head as its row."""
    return {
        **_item_row(head),
        "technology": head.technology.value,
        **_figure_row("full_w", head.draw.full_w),
        "idle_w": head.draw.idle_w,
        "power_factor": head.draw.power_factor,
        "curve": head.draw.curve.value,
        **_figure_row("lumens", head.lumens),
        "lowest_cct_k": head.lowest_cct_k,
        "highest_cct_k": head.highest_cct_k,
        "tint": head.tint,
        "lowest_level": head.lowest_level,
        "mains_low_v": head.mains.low_v if head.mains else None,
        "mains_high_v": head.mains.high_v if head.mains else None,
        "battery_plates": ";".join(
            f"{plate.mount}:{plate.plates}:{plate.level_limit:g}" for plate in head.battery_plates
        ),
        "fan_db": head.fan_db,
        "fitting": head.fitting,
        "scrim_ring_mm": head.scrim_ring_mm,
        "takes_gel": head.takes_gel,
        "spigot_mm": head.spigot_mm,
        "is_hot": head.is_hot,
        "warm_up_min": head.warm_up_min,
    }


def _distribution(fields: Fields) -> IntensityDistribution:
    kind = fields.word("kind")
    if kind == "beam_field":
        return BeamField(
            peak_cd=fields.number("peak_cd"), beam_deg=fields.number("beam_deg"), field_deg=fields.number("field_deg")
        )
    if kind == "cosine_power":
        return CosinePower(peak_cd=fields.number("peak_cd"), exponent=fields.number("exponent"))
    if kind == "tabulated":
        return _table(fields.inner("table"))
    raise BadValue("kind", repr(kind)[:40], "beam_field, cosine_power or tabulated")


def _table(fields: Fields) -> Tabulated:
    try:
        vertical, horizontal, candela = (
            np.array(fields.entries(key), dtype=float) for key in ("vertical_deg", "horizontal_deg", "candela")
        )
    except (TypeError, ValueError):
        raise BadValue(
            "table", "ragged or not numeric", "lists of numbers, one list of candela for each horizontal angle"
        ) from None
    table = Tabulated(
        kind=fields.choice("photometry", PhotometryType),
        vertical_deg=vertical,
        horizontal_deg=horizontal,
        candela=candela,
    )
    fields.done()
    return table


def _distribution_row(distribution: IntensityDistribution) -> Row:
    match distribution:
        case BeamField():
            return {
                "kind": "beam_field",
                "peak_cd": distribution.peak_cd,
                "beam_deg": distribution.beam_deg,
                "field_deg": distribution.field_deg,
            }
        case CosinePower():
            return {"kind": "cosine_power", "peak_cd": distribution.peak_cd, "exponent": distribution.exponent}
        case Tabulated():
            return {
                "kind": "tabulated",
                "table": {
                    "photometry": distribution.kind.value,
                    "vertical_deg": distribution.vertical_deg.tolist(),
                    "horizontal_deg": distribution.horizontal_deg.tolist(),
                    "candela": distribution.candela.tolist(),
                },
            }
    raise BadValue("distribution", type(distribution).__name__, "beam_field, cosine_power or tabulated")


def configuration_of(fields: Fields) -> Configuration:
    """A configuration from its row."""
    for unused in ("peak_cd", "beam_deg", "field_deg", "exponent"):  # a CSV line has the columns of every kind
        fields.has(unused)
    return Configuration(
        **_item(fields),
        head_slug=fields.word("head_slug"),
        distribution=_distribution(fields),
        lumens=fields.number("lumens"),
        face=EmittingFace(
            shape=fields.choice("shape", FaceShape),
            width_m=fields.number("width_m"),
            height_m=fields.number("height_m"),
        ),
        origin=fields.choice("origin", Origin, Origin.CLAIMED),
        offset_m=fields.number("offset_m", 0.0),
        is_lambertian=fields.yes("is_lambertian"),
        takes_box=fields.yes("takes_box"),
    )


def configuration_row(configuration: Configuration) -> Row:
    """A configuration as its row."""
    face = configuration.face
    return {
        **_item_row(configuration),
        "head_slug": configuration.head_slug,
        **_distribution_row(configuration.distribution),
        "lumens": configuration.lumens,
        "shape": face.shape.value,
        "width_m": face.width_m,
        "height_m": face.height_m,
        "origin": configuration.origin.value,
        "offset_m": configuration.offset_m,
        "is_lambertian": configuration.is_lambertian,
        "takes_box": configuration.takes_box,
    }


def _sheet_of(fields: Fields) -> Sheet:
    measured = fields.has("transmittance")
    fields.has("transmittance_origin")
    return Sheet(
        **_item(fields),
        kind=fields.choice("kind", SheetKind),
        transmittance=fields.figure("transmittance") if measured else None,
        shift_mired=fields.number("shift_mired", 0.0),
        tint=fields.number("tint", 0.0),
        layers=fields.whole("layers", 0),
        ring_mm=fields.number("ring_mm", 0.0),
    )


def _sheet_row(sheet: Sheet) -> Row:
    return {
        **_item_row(sheet),
        "kind": sheet.kind.value,
        **_figure_row("transmittance", sheet.transmittance),
        "shift_mired": sheet.shift_mired,
        "tint": sheet.tint,
        "layers": sheet.layers,
        "ring_mm": sheet.ring_mm,
    }


def _size(fields: Fields) -> dict[str, float]:
    return {"width_m": fields.number("width_m"), "height_m": fields.number("height_m")}


def _size_row(sized: Face | Frame | Board) -> Row:
    return {"width_m": sized.width_m, "height_m": sized.height_m}


def _face_of(fields: Fields) -> Face:
    return Face(
        **_item(fields),
        **_size(fields),
        fitting=fields.word("fitting"),
        form=fields.choice("form", FaceForm),
        efficiency=fields.figure("efficiency"),
        shift_mired=fields.number("shift_mired", 0.0),
        hottest_w=fields.number("hottest_w", 0.0),
    )


def _face_row(face: Face) -> Row:
    return {
        **_item_row(face),
        **_size_row(face),
        "fitting": face.fitting,
        "form": face.form.value,
        **_figure_row("efficiency", face.efficiency),
        "shift_mired": face.shift_mired,
        "hottest_w": face.hottest_w,
    }


def _grid_of(fields: Fields) -> Grid:
    return Grid(
        **_item(fields),
        fitting=fields.word("fitting", ""),
        cutoff_deg=fields.number("cutoff_deg"),
        on_axis=fields.figure("on_axis"),
        face_slug=fields.word("face_slug", ""),
    )


def _grid_row(grid: Grid) -> Row:
    return {
        **_item_row(grid),
        "fitting": grid.fitting,
        "cutoff_deg": grid.cutoff_deg,
        **_figure_row("on_axis", grid.on_axis),
        "face_slug": grid.face_slug,
    }


def _cloth_of(fields: Fields) -> Cloth:
    return Cloth(
        **_item(fields),
        transmittance=fields.figure("transmittance"),
        straight_share=fields.number("straight_share", 0.0),
        lobe_deg=fields.number("lobe_deg", 90.0),
        shift_mired=fields.number("shift_mired", 0.0),
        widest_m=fields.number("widest_m", 6.0),
    )


def _cloth_row(cloth: Cloth) -> Row:
    return {
        **_item_row(cloth),
        **_figure_row("transmittance", cloth.transmittance),
        "straight_share": cloth.straight_share,
        "lobe_deg": cloth.lobe_deg,
        "shift_mired": cloth.shift_mired,
        "widest_m": cloth.widest_m,
    }


def _board_of(fields: Fields) -> Board:
    return Board(
        **_item(fields),
        **_size(fields),
        reflectance=fields.figure("reflectance"),
        lobe_deg=fields.number("lobe_deg", 90.0),
        shift_mired=fields.number("shift_mired", 0.0),
    )


def _board_row(board: Board) -> Row:
    return {
        **_item_row(board),
        **_size_row(board),
        **_figure_row("reflectance", board.reflectance),
        "lobe_deg": board.lobe_deg,
        "shift_mired": board.shift_mired,
    }


def _battery_of(fields: Fields) -> BatteryKind:
    return BatteryKind(
        **_item(fields),
        mount=fields.word("mount"),
        capacity_wh=fields.number("capacity_wh"),
        nominal_v=fields.number("nominal_v"),
        most_a=fields.number("most_a"),
        usable=fields.number("usable", 0.9),
        efficiency=fields.number("efficiency", 0.95),
    )


def _battery_row(battery: BatteryKind) -> Row:
    return {
        **_item_row(battery),
        "mount": battery.mount,
        "capacity_wh": battery.capacity_wh,
        "nominal_v": battery.nominal_v,
        "most_a": battery.most_a,
        "usable": battery.usable,
        "efficiency": battery.efficiency,
    }


def _stand_of(fields: Fields) -> Stand:
    return Stand(
        **_item(fields),
        payload_kg=fields.number("payload_kg"),
        lowest_m=fields.number("lowest_m"),
        highest_m=fields.number("highest_m"),
        spigot_mm=fields.number("spigot_mm"),
    )


def _stand_row(stand: Stand) -> Row:
    return {
        **_item_row(stand),
        "payload_kg": stand.payload_kg,
        "lowest_m": stand.lowest_m,
        "highest_m": stand.highest_m,
        "spigot_mm": stand.spigot_mm,
    }


@dataclass(frozen=True, slots=True, kw_only=True)
class GearKind:
    """One list of the gear: how its rows are read and written, and what one of them is called."""

    read: Callable[[Fields], Any]
    write: Callable[[Any], Row]
    noun: str


#: By the name of the list, in JSON, of the CSV file, and of the field of Gear.
GEAR_KINDS: dict[str, GearKind] = {
    "heads": GearKind(read=head_of, write=head_row, noun="head"),
    "configurations": GearKind(read=configuration_of, write=configuration_row, noun="configuration"),
    "optics": GearKind(
        read=lambda fields: Optic(**_item(fields), fitting=fields.word("fitting")),
        write=lambda optic: {**_item_row(optic), "fitting": optic.fitting},
        noun="optic",
    ),
    "sheets": GearKind(read=_sheet_of, write=_sheet_row, noun="sheet"),
    "faces": GearKind(read=_face_of, write=_face_row, noun="box"),
    "grids": GearKind(read=_grid_of, write=_grid_row, noun="grid"),
    "frames": GearKind(
        read=lambda fields: Frame(**_item(fields), **_size(fields)),
        write=lambda frame: {**_item_row(frame), **_size_row(frame)},
        noun="frame",
    ),
    "cloths": GearKind(read=_cloth_of, write=_cloth_row, noun="cloth"),
    "boards": GearKind(read=_board_of, write=_board_row, noun="bounce"),
    "batteries": GearKind(read=_battery_of, write=_battery_row, noun="battery"),
    "stands": GearKind(read=_stand_of, write=_stand_row, noun="stand"),
}


def item_of(kind: str, row: Row) -> Any:
    """One piece of gear from its row. Raises: BadValue, also for a key that means nothing."""
    fields = Fields(row)
    item = GEAR_KINDS[kind].read(fields)
    fields.done()
    return item
