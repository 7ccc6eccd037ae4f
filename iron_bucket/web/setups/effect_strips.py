"""Lamps that play an effect: what it looks like over time, what it draws, and what it may do."""

import json
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.colour.seen import swatch
from iron_bucket.core.effects.cautions import effect_cautions
from iron_bucket.core.effects.effect import SPAN_S, STEP_S, EffectCurve, played_by
from iron_bucket.core.errors import BadValue
from iron_bucket.core.setups.evaluation import Evaluation

WIDTH, HEIGHT = 400, 40
#: Steps of the strip and of what plays on the plan.
_EVERY_S = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class EffectStrip:
    """``bars``: left edge, height and colour of each tenth of a second; ``refused``: why the lamp cannot play it."""

    piece_id: str
    name: str
    words: str
    duty: float
    mean_w: float
    cautions: tuple[str, ...]
    bars: tuple[tuple[float, float, str], ...] = ()
    refused: str = ""


def effect_strips(now: Evaluation) -> tuple[EffectStrip, ...]:
    """Of every lamp that is on and plays."""
    found = []
    look, white = now.setup.look, now.setup.look.white
    for light in now.lit.built.lights:
        placed, fixture = light.placed, light.fixture
        effect = placed.played if placed is not None and placed.is_on else None
        if effect is None or placed is None or fixture is None:
            continue
        words = f"{effect.kind.value}, {effect.rate_hz:g} a second"
        try:
            curve = played_by(effect, fixture.head, light.level, light.cct_k)
        except BadValue as bad:
            found.append(
                EffectStrip(
                    piece_id=placed.piece_id,
                    name=placed.name,
                    words=words,
                    duty=1.0,
                    mean_w=0.0,
                    cautions=(),
                    refused=str(bad),
                )
            )
            continue
        levels, shifts = _sampled(curve)
        colours = [swatch(light.colour.shifted(round(shift, -1)), white) for shift in shifts.tolist()]
        step = WIDTH / len(levels)
        bars = tuple(
            (round(at * step, 2), round(level * HEIGHT, 1), colour)
            for at, (level, colour) in enumerate(zip(levels.tolist(), colours, strict=True))
        )
        found.append(
            EffectStrip(
                piece_id=placed.piece_id,
                name=placed.name,
                words=words,
                duty=curve.duty,
                mean_w=fixture.mean_watts(placed),
                cautions=effect_cautions(effect, curve, look.fps, look.time_s),
                bars=bars,
            )
        )
    return tuple(found)


def _sampled(curve: EffectCurve) -> tuple[np.ndarray, np.ndarray]:
    count, each = round(SPAN_S / _EVERY_S), round(_EVERY_S / STEP_S)
    return tuple(part.reshape(count, each).mean(axis=1) for part in (curve.level, curve.shift_mired))


def played_json(strips: tuple[EffectStrip, ...]) -> str:
    """Levels by piece for the script that plays them on the plan."""
    return json.dumps(
        {each.piece_id: [round(height / HEIGHT, 2) for _, height, _ in each.bars] for each in strips if each.bars}
    )
