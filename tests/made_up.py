"""Small gear with round figures, for computing by hand. Every factory takes changes."""

from dataclasses import replace
from datetime import datetime

import numpy as np

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.configuration import Configuration, EmittingFace, FaceShape
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import BatteryPlate, Head, MainsRange, Technology
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, FaceForm, Frame, Grid, Sheet, SheetKind
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import BeamField
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.power.load import Draw, DrawCurve
from iron_bucket.core.selection.need import Need
from tests.tables import table


def typical(value: float) -> Figure:
    return Figure(value=value, origin=Origin.TYPICAL)


def a_draw(**changes) -> Draw:
    return Draw(
        **({"full_w": typical(200.0), "idle_w": 20.0, "power_factor": 0.8, "curve": DrawCurve.ELECTRONIC} | changes)
    )


def a_head(**changes) -> Head:
    made = {
        "slug": "lamp",
        "name": "lamp",
        "maker": "made up",
        "weight_kg": 5.0,
        "day_price": 40.0,
        "technology": Technology.LED_DAY,
        "draw": a_draw(),
        "lumens": typical(10000.0),
        "lowest_cct_k": 5600.0,
        "highest_cct_k": 5600.0,
        "lowest_level": 0.01,
        "mains": MainsRange(low_v=100, high_v=240),
        "battery_plates": (BatteryPlate(mount="v-lock", plates=2, level_limit=0.5),),
        "fan_db": 28.0,
        "fitting": "S-type",
    }
    return Head(**(made | changes))


def a_configuration(**changes) -> Configuration:
    beam = BeamField(peak_cd=9000.0, beam_deg=40.0, field_deg=70.0)
    made = {
        "slug": "lamp.own",
        "name": "own beam",
        "maker": "made up",
        "weight_kg": 0.5,
        "head_slug": "lamp",
        "distribution": beam,
        "lumens": lumens(beam),
        "face": EmittingFace(shape=FaceShape.DISC, width_m=0.1, height_m=0.1),
        "origin": Origin.CLAIMED,
        "takes_box": True,
    }
    return Configuration(**(made | changes))


def a_sheet(slug: str, kind: SheetKind = SheetKind.ND, passes: float | None = 0.5, **changes) -> Sheet:
    made = {
        "slug": slug,
        "name": slug,
        "maker": "",
        "weight_kg": 0.1,
        "kind": kind,
        "transmittance": typical(passes) if passes else None,
    }
    return Sheet(**(made | changes))


def a_face(**changes) -> Face:
    made = {
        "slug": "dome",
        "name": "dome",
        "maker": "",
        "weight_kg": 1.5,
        "day_price": 6.0,
        "fitting": "S-type",
        "form": FaceForm.DISC,
        "width_m": 1.0,
        "height_m": 1.0,
        "efficiency": typical(0.5),
    }
    return Face(**(made | changes))


def a_grid(**changes) -> Grid:
    made = {
        "slug": "comb",
        "name": "comb",
        "maker": "",
        "weight_kg": 0.3,
        "fitting": "S-type",
        "cutoff_deg": 40.0,
        "on_axis": typical(0.6),
    }
    return Grid(**(made | changes))


def a_frame(**changes) -> Frame:
    return Frame(
        **({"slug": "frame", "name": "frame", "maker": "", "weight_kg": 3.0, "width_m": 1.2, "height_m": 1.2} | changes)
    )


def a_cloth(**changes) -> Cloth:
    return Cloth(
        **(
            {
                "slug": "cloth",
                "name": "cloth",
                "maker": "",
                "weight_kg": 0.5,
                "day_price": 2.0,
                "transmittance": typical(0.4),
            }
            | changes
        )
    )


def a_board(**changes) -> Board:
    made = {
        "slug": "board",
        "name": "board",
        "maker": "",
        "weight_kg": 1.0,
        "width_m": 1.2,
        "height_m": 1.2,
        "reflectance": typical(0.85),
    }
    return Board(**(made | changes))


def a_battery(**changes) -> BatteryKind:
    made = table(__file__, "a_battery")
    return BatteryKind(**(made | changes))


def a_gear(**changes) -> Gear:
    return Gear(**({"heads": (a_head(),), "configurations": (a_configuration(),)} | changes))


def a_need(**changes) -> Need:
    return replace(Need(illuminance_lx=500.0, throw_m=3.0), **changes)


def a_gel(**changes) -> Sheet:
    return a_sheet("gel", SheetKind.COLOUR, **changes)


DRAW, LUMENS, LUMENS_SHARE, NOON = a_draw(), typical(10_000.0), typical(0.5), datetime(2026, 6, 21, 12, 0)


def panel_at(centre, side_x, side_y, width_m: float, height_m: float) -> Panel:
    """A rectangle in space, from plain numbers."""
    centre_m, along, up = (np.array(each, dtype=float) for each in (centre, side_x, side_y))
    return Panel(centre_m=centre_m, side_x=along, side_y=up, width_m=width_m, height_m=height_m)
