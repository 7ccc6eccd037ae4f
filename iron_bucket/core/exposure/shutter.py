"""Exposure time from shutter angle and frame rate."""

from iron_bucket.core.checks import require_between, require_positive


def exposure_time_s(*, angle_deg: float, fps: float) -> float:
    """Seconds that each frame is exposed. Source: t = angle / (360 fps)."""
    require_between("angle_deg", angle_deg, low=0.1, high=360.0, unit="degrees")
    require_positive("fps", fps, unit="frames a second")
    return angle_deg / (360.0 * fps)


def shutter_angle_deg(*, time_s: float, fps: float) -> float:
    """The shutter angle that exposes for ``time_s``. Raises: BadValue where that is longer than a frame."""
    require_positive("time_s", time_s, unit="s")
    require_positive("fps", fps, unit="frames a second")
    angle_deg = 360.0 * fps * time_s
    require_between("angle_deg", angle_deg, low=0.1, high=360.0, unit="degrees")
    return angle_deg
