"""A bench of any size for timings: seeded, physical enough that some of it fits."""

import numpy as np

from iron_bucket.core.bench.configuration import Configuration, EmittingFace, FaceShape
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head, MainsRange, Technology
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.kinds import Cloth, Frame, Sheet, SheetKind
from iron_bucket.core.photometry.distribution import BeamField
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.power.load import Draw, DrawCurve


def _typical(value: float) -> Figure:
    return Figure(value=value, origin=Origin.TYPICAL)


def gear(*, configurations: int, frames: int, cloths: int, sheets: int, seed: int = 7) -> Gear:
    """``frames`` x ``cloths`` x 2 places + 1 fronts; 1 + sheets + pairs sheet sets (all ND, so that
    all pairs stand)."""
    random = np.random.default_rng(seed)
    heads, optics = [], []
    for index in range(configurations):
        watts, beam = float(random.uniform(30, 2500)), float(random.uniform(10, 100))
        output = watts * float(random.uniform(60, 110))
        heads.append(
            Head(
                slug=f"head-{index}",
                name=f"head {index}",
                maker="made up",
                weight_kg=watts / 80,
                day_price=watts / 10,
                technology=Technology.LED_BICOLOUR,
                draw=Draw(full_w=_typical(watts), idle_w=5.0, power_factor=0.95, curve=DrawCurve.ELECTRONIC),
                lumens=_typical(output),
                lowest_cct_k=2700,
                highest_cct_k=6500,
                lowest_level=0.01,
                mains=MainsRange(low_v=100, high_v=240),
            )
        )
        shape = BeamField(peak_cd=1.0, beam_deg=beam, field_deg=min(beam * 1.6, 170.0))
        optics.append(
            Configuration(
                slug=f"head-{index}.own",
                name="own beam",
                maker="made up",
                weight_kg=0.1,
                head_slug=f"head-{index}",
                distribution=BeamField(peak_cd=output / lumens(shape), beam_deg=beam, field_deg=shape.field_deg),
                lumens=output,
                face=EmittingFace(shape=FaceShape.DISC, width_m=0.15, height_m=0.15),
                origin=Origin.CLAIMED,
            )
        )
    return Gear(
        heads=tuple(heads),
        configurations=tuple(optics),
        frames=tuple(
            Frame(
                slug=f"frame-{i}",
                name=f"frame {i}",
                maker="made up",
                weight_kg=3,
                width_m=0.6 + 0.3 * i,
                height_m=0.6 + 0.3 * i,
            )
            for i in range(frames)
        ),
        cloths=tuple(
            Cloth(
                slug=f"cloth-{i}",
                name=f"cloth {i}",
                maker="made up",
                weight_kg=0.2,
                transmittance=_typical(0.15 + 0.8 * i / max(cloths, 1)),
            )
            for i in range(cloths)
        ),
        sheets=tuple(
            Sheet(
                slug=f"nd-{i}",
                name=f"ND {i}",
                maker="made up",
                weight_kg=0.05,
                kind=SheetKind.ND,
                transmittance=_typical(0.92 ** (i + 1)),
            )
            for i in range(sheets)
        ),
    )
