"""What an effect may do to people who watch, and to the picture."""

from collections.abc import Iterator

from iron_bucket.core.effects.effect import Effect, EffectCurve, EffectKind

#: More flashes a second may bring on a fit in people who are sensitive. Source: ISO 9241-391, general flashes.
SAFE_FLASHES = 3.0
#: Shallower flicker is no flash. Source: the same, a tenth of the brighter state.
_FLASH_DEPTH = 0.1
#: A beat slower than that is seen as a pulse.
_BEAT_BELOW_HZ = 2.0
_PERIODIC = (EffectKind.NEON,)
#: What comes in single flashes that a shut shutter may miss; a flame or a screen goes on through it.
_SINGLE = (EffectKind.STORM, EffectKind.TUBE, EffectKind.NEON)


def effect_cautions(effect: Effect, curve: EffectCurve, fps: float, shutter_s: float) -> tuple[str, ...]:
    """Each with the figure that triggered it."""
    return (*_for_people(effect, curve), *_for_the_picture(effect, curve, fps, shutter_s))


def _for_people(effect: Effect, curve: EffectCurve) -> Iterator[str]:
    flashes = curve.flashes_a_second
    if flashes > SAFE_FLASHES and effect.depth >= _FLASH_DEPTH:
        yield (
            f"{flashes:.1f} flashes a second, above {SAFE_FLASHES:.0f}: it may harm people who are sensitive to"
            " flicker. Warn everybody on set before it runs, and rehearse at a steady level."
        )


def _for_the_picture(effect: Effect, curve: EffectCurve, fps: float, shutter_s: float) -> Iterator[str]:
    if effect.kind in _PERIODIC:
        beat_hz = abs(effect.rate_hz - round(effect.rate_hz / fps) * fps)
        if effect.rate_hz > fps / 2.0 and 0.0 < beat_hz < _BEAT_BELOW_HZ:
            yield f"{effect.rate_hz:g} a second against {fps:g} frames beats every {1.0 / beat_hz:.1f} s."
    shut_s = 1.0 / fps - shutter_s
    if effect.kind in _SINGLE and curve.shortest_s < shut_s:
        yield (
            f"Its shortest flash is {curve.shortest_s * 1000.0:.0f} ms, the shutter is shut for"
            f" {shut_s * 1000.0:.0f} ms of every frame: some flashes will not be in the picture."
        )
