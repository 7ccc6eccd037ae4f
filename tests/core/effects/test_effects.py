"""Effects: the same for the same seed, within their depth, as the head can play them, and what they may do."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.head import Technology
from iron_bucket.core.effects.cautions import effect_cautions
from iron_bucket.core.effects.effect import SPAN_S, STEP_S, USUAL, Effect, EffectCurve, EffectKind, curve_of, played_by
from iron_bucket.core.errors import BadValue
from tests.made_up import a_head
from tests.tables import tabled

LED = a_head(
    technology=Technology.LED_BICOLOUR, lowest_cct_k=2800.0, highest_cct_k=6500.0, lowest_level=0.01, name="Lamp"
)


@pytest.mark.parametrize("kind", EffectKind)
def test_the_same_seed_is_the_same_light_and_another_is_another(kind):
    effect = Effect.usual(kind, seed=3)
    one, other = curve_of(effect), curve_of(effect)
    assert (one.level == other.level).all()
    assert len(one.level) == len(one.shift_mired) == round(SPAN_S / STEP_S)
    assert (curve_of(Effect.usual(kind, seed=4)).level != one.level).any()
    assert (effect.rate_hz, effect.depth) == USUAL[kind]
    assert Effect(kind=kind, rate_hz=1.0, depth=0.5) == Effect(kind=kind, rate_hz=1.0, depth=0.5, seed=1)
    assert one.level.min() >= 1.0 - effect.depth - 1e-9
    assert one.level.max() <= 1.0 + 1e-9
    assert one.level.max() - one.level.min() > 0.3 * effect.depth
    assert one.duty == pytest.approx(one.level.mean())
    shallow = curve_of(replace(effect, depth=0.2))
    assert shallow.level == pytest.approx(1.0 - 0.2 * (1.0 - one.level) / effect.depth)


def test_what_each_is_like():
    flame, neon, storm, tube, car, telly = (
        curve_of(Effect.usual(kind, seed=2))
        for kind in (
            EffectKind.FLAME,
            EffectKind.NEON,
            EffectKind.STORM,
            EffectKind.TUBE,
            EffectKind.CAR,
            EffectKind.TELEVISION,
        )
    )
    assert np.corrcoef(flame.level, flame.shift_mired)[0, 1] < -0.99  # warmer where it is lower
    assert flame.shift_mired.max() <= 60.0
    assert (neon.duty, neon.flashes_a_second) == (pytest.approx(0.6, abs=0.01), pytest.approx(1.0, abs=0.06))
    assert neon.shortest_s == pytest.approx(0.6, abs=0.45)
    assert storm.duty < 0.2
    assert storm.shift_mired.min() == -30.0
    assert tube.duty > 0.5
    assert (car.level > 0.5).mean() < 0.2
    assert len(np.unique(telly.level)) < 60
    fast = curve_of(Effect(kind=EffectKind.NEON, rate_hz=10.0, depth=1.0))
    assert fast.flashes_a_second == pytest.approx(10.0, abs=0.1)
    assert fast.shortest_s == pytest.approx(0.06, abs=0.011)
    assert EffectCurve(level=np.ones(10), shift_mired=np.zeros(10)).shortest_s == SPAN_S
    pale = EffectCurve(level=np.tile([0.6, 1.0], 50), shift_mired=np.zeros(100))
    assert (pale.flashes_a_second, pale.shortest_s) == (50.0 / SPAN_S, STEP_S)


def test_a_head_plays_no_lower_no_warmer_and_no_faster_than_it_can():
    flame = Effect(kind=EffectKind.FLAME, rate_hz=4.0, depth=1.0)
    played = played_by(flame, LED, 0.02, 2900.0)
    assert played.level.min() == pytest.approx(0.5)  # a hundredth of full is half of two hundredths
    assert played.shift_mired.max() == pytest.approx(1e6 / 2800.0 - 1e6 / 2900.0)
    storm = Effect.usual(EffectKind.STORM)
    assert played_by(storm, LED, 1.0, 5600.0).shift_mired.min() == pytest.approx(1e6 / 6500.0 - 1e6 / 5600.0)
    hot = replace(LED, technology=Technology.TUNGSTEN, lowest_cct_k=3200.0, highest_cct_k=3200.0)
    neon = Effect(kind=EffectKind.NEON, rate_hz=1.0, depth=1.0)
    slow, quick = played_by(neon, hot, 1.0, 3200.0), played_by(neon, LED, 1.0, 3200.0)
    assert np.abs(np.diff(quick.level)).max() > 0.9
    assert np.abs(np.diff(slow.level)).max() < 0.05
    step = 1.0 - np.exp(-STEP_S / 0.25)
    assert 0.7 * step < np.abs(np.diff(slow.level)).max() <= step + 1e-9
    assert slow.duty == pytest.approx(quick.duty, abs=0.05)
    assert (slow.shift_mired == 0.0).all()
    assert played_by(flame, hot, 1.0, 3200.0).level[0] == pytest.approx(curve_of(flame).level[0], abs=1e-12)
    held = played_by(flame, replace(LED, lowest_level=0.5), 0.2, 5600.0)  # set lower than it goes: it stays there
    assert (held.level.min(), held.level.max()) == (1.0, 1.0)
    for head in (replace(LED, technology=Technology.HMI), replace(LED, lowest_level=1.0)):
        with pytest.raises(BadValue, match="would need a shutter"):
            played_by(flame, head, 1.0, 5600.0)


@tabled
def test_figures_have_bounds(changes, field):
    with pytest.raises(BadValue) as bad:
        Effect(**({"kind": EffectKind.FLAME, "rate_hz": 1.0, "depth": 0.5} | changes))
    assert bad.value.field == field


def test_people_who_are_sensitive_and_the_shutter_are_thought_of():
    def said(rate_hz: float, depth: float = 1.0, fps: float = 24.0, shutter_s: float = 1 / 48) -> list[str]:
        effect = Effect(kind=EffectKind.NEON, rate_hz=rate_hz, depth=depth)
        return list(effect_cautions(effect, curve_of(effect), fps, shutter_s))

    assert said(2.5) == []
    (people,) = said(5.0)
    assert people.startswith("5.0 flashes a second, above 3")
    assert said(5.0, depth=0.08) == []
    beats = said(24.5)
    assert any("24.5 a second against 24 frames beats every 2.0 s" in each for each in beats)
    assert not any("beats" in each for each in said(21.0))
    assert not any("beats" in each for each in said(24.0))
    short = said(20.0, fps=12.0, shutter_s=1 / 240)
    assert any("shutter is shut for 79 ms" in each for each in short)
    assert any("shortest flash is 30 ms" in each for each in short)
    assert not any("shut" in each for each in said(1.0))
    assert not any("beats" in each for each in said(1.5, fps=4.0))  # seen turn by turn


def seeds_of(kind, rate_hz=None, count=40):
    """Raw curves of many seeds: as deep as can be, so that the level is the maker's own."""
    rate = rate_hz or USUAL[kind][0]
    return [curve_of(Effect(kind=kind, rate_hz=rate, depth=1.0, seed=seed)) for seed in range(count)]


def test_a_flame_waves_about_its_rate_slow_ones_larger():
    """Two octaves below its rate to one above: nothing beyond; the larger the slower, as one over the root."""
    times = SPAN_S / STEP_S
    # It may begin anywhere in its waves.
    assert np.mean([curve.level[0] for curve in seeds_of(EffectKind.FLAME, 4.0, 200)]) == pytest.approx(0.5, abs=0.05)
    for rate in (1.0, 4.0):
        power = np.zeros(round(times) // 2 + 1)
        for curve in seeds_of(EffectKind.FLAME, rate):
            assert np.abs(curve.level - 0.5).max() == pytest.approx(0.5)
            assert curve.shift_mired == pytest.approx(60.0 * (1.0 - curve.level))
            power += np.abs(np.fft.rfft((curve.level - curve.level.mean()) * np.hanning(len(curve.level)))) ** 2
        at_hz = np.fft.rfftfreq(round(times), STEP_S)
        inside = (at_hz > rate / 4.0 - 0.2) & (at_hz < rate * 2.0 + 0.2)
        assert power[inside].sum() > 0.99 * power.sum()
        # Speeds lie evenly by octaves, sizes squared fall as one over the speed: half above, three quarters of what is.
        low, high = (power[(at_hz >= a * rate) & (at_hz < b * rate)].sum() for a, b in ((0.25, 0.5), (0.5, 2.0)))
        assert low / high == pytest.approx(2.0 / 1.5, rel=0.35)


def test_a_television_cuts_by_chance_at_its_rate():
    curves = seeds_of(EffectKind.TELEVISION, 0.7, 200)
    changes = [np.flatnonzero(np.diff(each.level)) for each in curves]
    assert sum(map(len, changes)) / (200.0 * SPAN_S) == pytest.approx(0.7, rel=0.06)
    times = np.concatenate([np.diff(each) for each in changes]) * STEP_S
    assert times.std() / times.mean() == pytest.approx(
        0.9, abs=0.15
    )  # of an even chance: 1, less what the end cuts off
    shots = np.concatenate([np.unique(each.level) for each in curves])
    assert (shots.mean(), shots.std()) == (pytest.approx(0.5, abs=0.03), pytest.approx(12.0**-0.5, abs=0.02))
    assert np.concatenate([np.unique(each.shift_mired) for each in curves]).std() == pytest.approx(40.0, rel=0.08)


def test_cars_swell_and_go_each_as_wide_as_the_other():
    """1 / (1 + x²)² is half at x = 0.6436: 0.772 s wide, with 0.6 s to x."""
    curves = seeds_of(EffectKind.CAR, 0.1, 60)
    passes = sum(each.flashes_a_second for each in curves) / 60.0
    assert passes == pytest.approx(0.1, rel=0.15)
    above = np.mean([(each.level > 0.5).mean() for each in curves])
    assert above / passes == pytest.approx(0.772, rel=0.06)
    assert max(each.level.max() for each in curves) > 0.999
    peaks = [np.flatnonzero((np.diff(each.level, 2) < -1e-4) & (each.level[1:-1] > 0.999)) * STEP_S for each in curves]
    first, last = (np.array([at[end] for at in peaks if len(at)]) for end in (0, -1))
    assert (first.mean(), last.mean()) == (pytest.approx(5.0, abs=1.0), pytest.approx(15.0, abs=1.0))
    assert first.std() == pytest.approx((0.6**2 / 12.0 * 100.0 + 1.0) ** 0.5, abs=0.5)  # where it begins, and by chance
    assert all((each.shift_mired == 0.0).all() for each in curves)


def test_lightning_strikes_at_its_rate_in_flashes_that_fade():
    curves = seeds_of(EffectKind.STORM, 0.2, 100)
    pairs = np.concatenate([np.stack([each.level[:-1], each.level[1:]], axis=1) for each in curves])
    falling = pairs[(pairs[:, 0] > 0.01) & (pairs[:, 1] < pairs[:, 0])]
    assert np.median(falling[:, 1] / falling[:, 0]) == pytest.approx(np.exp(-STEP_S / 0.06))
    rises = [np.flatnonzero((each.level[1:] > each.level[:-1]) & (each.level[1:] > 0.4)) for each in curves]
    firsts = sum((np.diff(each, prepend=-1000) * STEP_S > 0.9).sum() for each in rises)
    assert firsts / (100.0 * SPAN_S) == pytest.approx(0.2, rel=0.2)
    gaps = np.concatenate([np.diff(each) * STEP_S for each in rises])
    within = gaps[gaps < 0.5]
    assert np.quantile(within, (0.05, 0.5)) == pytest.approx([0.0455, 0.1], abs=0.02)  # some are hidden by others
    peaks = np.concatenate([each.level[1:][at] for each, at in zip(curves, rises, strict=True)])
    # Evenly from a half to all, faded for half a step on average.
    assert np.median(peaks) == pytest.approx(0.75 * np.exp(-STEP_S / 2.0 / 0.06), abs=0.03)
    assert all(set(np.unique(each.shift_mired)) <= {-30.0, 0.0} for each in curves)
    assert all(((each.level > 0.01) == (each.shift_mired < 0.0)).all() for each in curves)


def test_a_tube_falls_out_several_times_and_holds():
    """Two to six dark times of 0.05 to 0.3 s, 0.175 s on average, at 0.1 a second: 7 in a hundred of the time."""
    curves = seeds_of(EffectKind.TUBE, 0.1, 100)
    assert np.mean([(each.level == 0.0).mean() for each in curves]) == pytest.approx(0.1 * 4.0 * 0.175, rel=0.12)
    for each in curves:
        assert (each.shift_mired == np.where(each.level == 0.0, 20.0, 0.0)).all()
    ends = np.concatenate([np.flatnonzero(np.diff(each.level) > 0.0) for each in curves])
    begins = np.concatenate([np.flatnonzero(np.diff(each.level) < 0.0) for each in curves])
    assert len(begins) / (100.0 * SPAN_S) == pytest.approx(0.4, rel=0.12)
    assert len(ends) == pytest.approx(len(begins), abs=8)
    lit = np.concatenate([np.diff(np.flatnonzero(np.diff(each.level))) for each in curves]) * STEP_S
    short = lit[lit < 0.3]  # dark times and the moments between them
    assert short.min() == pytest.approx(0.02, abs=0.011)
    # Three moments to four dark times; on the grid of steps a moment is that short up to 0.045 s of 0.02 to 0.1.
    assert (short < 0.05).mean() == pytest.approx(3.0 / 7.0 * 0.025 / 0.08, abs=0.03)


def test_a_neon_keeps_its_turn():
    for curve in seeds_of(EffectKind.NEON, 0.5, 10):
        rises = np.flatnonzero(np.diff(curve.level) > 0.0)
        assert np.diff(rises) * STEP_S == pytest.approx(2.0, abs=0.011)
        assert set(np.unique(curve.level)) == {0.0, 1.0}
        assert (curve.shift_mired == 0.0).all()
