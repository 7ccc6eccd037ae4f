"""Small gear with round figures, for computing by hand. Every factory takes changes."""

from dataclasses import replace
from datetime import datetime

import numpy as np

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Grid, Sheet, SheetKind
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import BeamField
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.power.load import Draw
from iron_bucket.core.selection.need import Need
from tests.tables import factory, table


def typical(value: float) -> Figure:
    return Figure(value=value, origin=Origin.TYPICAL)


def made(name: str, kind: type):
    return factory(__file__, name, kind)


a_draw, a_head, a_battery = made("a_draw", Draw), made("a_head", Head), made("a_battery", BatteryKind)
a_face, a_grid, a_board = made("a_face", Face), made("a_grid", Grid), made("a_board", Board)
a_frame, a_cloth = made("a_frame", Frame), made("a_cloth", Cloth)
BEAM = BeamField(peak_cd=9000.0, beam_deg=40.0, field_deg=70.0)


def a_configuration(**changes) -> Configuration:
    shape = {"distribution": BEAM, "lumens": lumens(BEAM)}
    return Configuration(**(table(__file__, "a_configuration") | shape | changes))


def a_sheet(slug: str, kind: SheetKind = SheetKind.ND, passes: float | None = 0.5, **changes) -> Sheet:
    own = {"slug": slug, "name": slug, "kind": kind, "transmittance": typical(passes) if passes else None}
    return Sheet(**({"maker": "", "weight_kg": 0.1} | own | changes))


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
