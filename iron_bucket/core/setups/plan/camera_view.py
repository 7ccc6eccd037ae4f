"""What the camera sees: whether a point is in the picture, and the edges of the picture on the plan."""

import numpy as np

from iron_bucket.core.arrays import Array, cross
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Camera


def field_of_view_deg(camera: Camera, look: Look) -> tuple[float, float]:
    """Full angles across and up. Source: 2 atan(sensor / (2 focal length))."""
    across, up = (
        2.0 * np.degrees(np.arctan(size / (2.0 * camera.focal_mm)))
        for size in (look.sensor_width_mm, look.sensor_height_mm)
    )
    return float(across), float(up)


def camera_position(camera: Camera) -> Array:
    """Shape (3,)."""
    return np.array([camera.x_m, camera.y_m, camera.z_m])


def _axes(camera: Camera) -> tuple[Array, Array, Array]:
    """Ahead, across to the right, and above, each of shape (3,)."""
    ahead = along_bearing(camera.bearing_deg, camera.tilt_deg)
    across = along_bearing(camera.bearing_deg + 90.0)
    return ahead, across, cross(across, ahead)


def _half_sizes(camera: Camera, look: Look) -> tuple[float, float]:
    """Half of the picture's width and height, one metre before the lens."""
    across, up = (float(np.tan(np.radians(angle / 2.0))) for angle in field_of_view_deg(camera, look))
    return across, up


def depth_m(camera: Camera, point_m: Array) -> float:
    """How far before the lens a point lies, along the lens's axis; below 0 behind it. Shape (3,)."""
    return float((point_m - camera_position(camera)) @ _axes(camera)[0])


def picture_corners_m(camera: Camera, look: Look, ahead_m: float) -> Array:
    """Corners of the picture so far before the lens, from its lower left one round. Shape (4, 3)."""
    ahead, across, above = _axes(camera)
    half_across, half_up = _half_sizes(camera, look)
    corners = [side * half_across * across + up * half_up * above for side, up in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
    return camera_position(camera) + ahead_m * (ahead + np.array(corners))


def in_view(camera: Camera, look: Look, points_m: Array) -> np.ndarray:
    """Which points fall into the picture, walls left out of account. Shapes (P, 3) to (P,)."""
    ahead, across, above = _axes(camera)
    rays = points_m - camera_position(camera)
    depth = rays @ ahead
    half_across, half_up = _half_sizes(camera, look)
    inside = (np.abs(rays @ across) <= half_across * depth) & (np.abs(rays @ above) <= half_up * depth)
    return np.asarray((depth > 0.0) & inside)
