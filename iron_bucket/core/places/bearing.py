"""Bearings on a plan: clockwise from straight up it."""

import numpy as np

from iron_bucket.core.arrays import Array


def along_bearing(bearing_deg: float, tilt_deg: float = 0.0) -> Array:
    """The direction of a bearing, tilted up (positive) or down. Shape (3,), length 1."""
    bearing, tilt = np.radians(bearing_deg), np.radians(tilt_deg)
    return np.array([np.sin(bearing) * np.cos(tilt), np.cos(bearing) * np.cos(tilt), np.sin(tilt)])


def bearing_of(vector: Array) -> float:
    """The bearing of a direction, 0 to 360 degrees; 0 for one that goes straight up or down."""
    return float(np.degrees(np.arctan2(vector[0], vector[1])) % 360.0)


def tilt_of(vector: Array) -> float:
    """How far a direction looks up, -90 to 90 degrees."""
    return float(np.degrees(np.arctan2(vector[2], np.hypot(vector[0], vector[1]))))


def turn_between(one_deg: float, other_deg: float) -> float:
    """From one bearing to another the short way, -180 to 180 degrees; clockwise is positive."""
    return (other_deg - one_deg + 180.0) % 360.0 - 180.0
