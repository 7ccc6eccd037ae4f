"""What will not stand, reach or hide as it was placed: each with the figure that shows it."""

from collections import defaultdict

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.cautions.rules import GLARE_LX, Caution
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.quantities import spoken
from iron_bucket.core.scene.blocking import crosses, passing
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.setups.faces import lit_faces
from iron_bucket.core.setups.lit import Lit
from iron_bucket.core.setups.plan import PlacedFrame
from iron_bucket.core.setups.spill import brightest_spill
from iron_bucket.core.setups.staging import LightKind, frame_parts, frame_size_m, position_of
from iron_bucket.core.setups.view import camera_position, in_view

#: Typical: the legs of a stand reach so far, a head is so tall above its middle, and a lead is so long.
LEGS_M, HALF_HEAD_M, LEAD_M = 0.5, 0.2, 10.0
#: A board that scatters less is a mirror.
MIRROR_LOBE_DEG = 10.0
#: A surface this far over middle grey by our lamps alone is a hot spot.
HOT_SPOT_STOPS = 2.5


def clearance(lit: Lit, gear: Gear, rules: HouseRules) -> tuple[Caution, ...]:
    """All that is pointed out of a set-up."""
    return (
        *_under_ceilings(lit, gear),
        *_legs(lit),
        *_in_picture(lit, gear),
        *_reflected(lit, gear),
        *_leads(lit),
        *_circuits(lit, rules),
        *_glare(lit),
        *_hot_spots(lit, rules),
    )


def _under_ceilings(lit: Lit, gear: Gear) -> list[Caution]:
    found = []
    for name, place, top in _tops(lit, gear):
        room = lit.staged.surroundings.room_at(place[0], place[1])
        if room is None:
            continue
        height = lit.staged.surroundings.rooms[room].height_m
        if top > height:
            found.append(
                Caution(
                    code="ceiling",
                    title=f"{name} does not fit under the ceiling",
                    trigger=f"its top is at {top:.2f} m, the ceiling at {height:.2f} m",
                    action="Lower it, tilt it, or take a smaller one.",
                )
            )
    return found


def _tops(lit: Lit, gear: Gear) -> list[tuple[str, Array, float]]:
    """Name, position and upper edge of all that stands."""
    setup = lit.staged.setup
    tops = [(lamp.name, position_of(lamp), lamp.z_m + HALF_HEAD_M) for lamp in setup.lamps]
    tops += [(each.name, position_of(each), each.z_m + _half_height(each.tilt_deg, frame_size_m(each, gear)[1])) for each in setup.frames]  # fmt: skip
    tops += [
        (each.name, position_of(each), each.z_m + _half_height(each.tilt_deg, each.height_m)) for each in setup.flags
    ]
    return tops


def _half_height(tilt_deg: float, height_m: float) -> float:
    return float(abs(np.cos(np.radians(tilt_deg))) * height_m / 2.0)


def _legs(lit: Lit) -> list[Caution]:
    setup = lit.staged.setup
    feet = [(person.name, np.array([person.x_m, person.y_m])) for person in setup.people]
    feet.append(("the camera", np.array([setup.camera.x_m, setup.camera.y_m])))
    found = []
    for lamp in setup.lamps:
        for name, foot in feet:
            apart = float(np.linalg.norm(foot - np.array([lamp.x_m, lamp.y_m])))
            if apart < LEGS_M:
                found.append(
                    Caution(
                        code="legs",
                        title=f"The stand of {lamp.name} is in the way",
                        trigger=f"{apart:.2f} m from {name}, its legs reach {LEGS_M:.2f} m",
                        action="Boom it, turn a leg away, or move it.",
                    )
                )
    return found


def _in_picture(lit: Lit, gear: Gear) -> list[Caution]:
    setup, walls = lit.staged.setup, lit.staged.surroundings.walls
    things: list[tuple[str, Array]] = [(lamp.name, position_of(lamp)[None]) for lamp in setup.lamps]
    for frame in setup.frames:
        things.append((frame.name, _corners(frame, gear)))
    eye, found = camera_position(setup.camera), []
    for name, points in things:
        seen = in_view(setup.camera, setup.look, points) & (passing(eye[None], points, walls)[0] > 0.0)
        if seen.any():
            nearest = float(np.linalg.norm(points[seen] - eye, axis=1).min())
            found.append(
                Caution(
                    code="in-picture",
                    title=f"{name} is in the picture",
                    trigger=f"{nearest:.1f} m from the lens, inside the frame",
                    action="Move it, raise it, or go tighter.",
                )
            )
    return found


def _corners(frame: PlacedFrame, gear: Gear) -> Array:
    width, height = frame_size_m(frame, gear)
    across, up = along_bearing(frame.bearing_deg - 90.0), np.array([0.0, 0.0, 1.0])
    return np.array([position_of(frame) + sx * width / 2 * across + sy * height / 2 * up for sx in (-1, 0, 1) for sy in (-1, 0, 1)])  # fmt: skip


def _reflected(lit: Lit, gear: Gear) -> list[Caution]:
    """A lamp mirrored in a pane or mirror that the camera sees. Source: the image lies as far behind the glass as the lamp stands before it."""
    setup, found = lit.staged.setup, []
    eye = camera_position(setup.camera)
    for name, panel in _mirrors(lit, gear):
        for lamp in setup.lamps:
            offset = float((position_of(lamp) - panel.centre_m) @ panel.normal)
            image = position_of(lamp) - 2.0 * offset * panel.normal
            if (
                offset > 0.0
                and crosses(eye[None], image[None], panel)[0, 0]
                and in_view(setup.camera, setup.look, image[None])[0]
            ):
                found.append(
                    Caution(
                        code="mirrored",
                        title=f"{lamp.name} shows in {name}",
                        trigger=f"its image stands {offset:.1f} m behind the glass, inside the frame",
                        action="Turn the glass, move the lamp along it, or flag it off.",
                    )
                )
    return found


def _mirrors(lit: Lit, gear: Gear) -> list[tuple[str, Panel]]:
    """Windows, and boards that are mirrors."""
    found = [(light.name, light.light.panel) for light in lit.staged.lights if isinstance(light.light, Window)]
    for placed, frame in zip(lit.staged.setup.frames, lit.staged.scene.frames, strict=True):
        parts = frame_parts(placed, gear)
        if isinstance(parts, Board) and parts.lobe_deg < MIRROR_LOBE_DEG:
            found.append((placed.name, frame.panel))
    return found


def _leads(lit: Lit) -> list[Caution]:
    place = lit.staged.surroundings.place
    sockets = {each.socket_id: each for each in place.sockets}
    found = []
    for lamp in lit.staged.setup.lamps:
        socket = sockets.get(lamp.feed)
        if socket is None:
            continue
        run_m = abs(lamp.x_m - socket.x_m) + abs(lamp.y_m - socket.y_m) + lamp.z_m
        if run_m > LEAD_M:
            found.append(
                Caution(
                    code="lead",
                    title=f"A lead longer than {LEAD_M:g} m to {lamp.name}",
                    trigger=f"{run_m:.1f} m along the walls from {socket.name} and up the stand",
                    action="Bring another lead, uncoil it, mat the crossings; or feed it from nearer.",
                )
            )
    return found


def circuit_amps(lit: Lit) -> dict[str, float]:
    """What our lamps draw from each circuit of the house, by its name, at their levels."""
    place = lit.staged.surroundings.place
    sockets = {each.socket_id: each for each in place.sockets}
    amps: dict[str, float] = defaultdict(float)
    for light in lit.staged.lights:
        if light.kind is LightKind.LAMP and light.placed and light.worn and light.placed.feed in sockets:
            circuit = place.circuit(sockets[light.placed.feed].circuit)
            if circuit:
                draw = light.worn.head.draw
                amps[circuit.name] += light.worn.watts(light.placed) / draw.power_factor / circuit.voltage_v
    return dict(amps)


def _circuits(lit: Lit, rules: HouseRules) -> list[Caution]:
    place, found = lit.staged.surroundings.place, []
    for name, amps in circuit_amps(lit).items():
        house = place.circuit(name)
        if house is None:
            continue
        circuit = Circuit(
            voltage_v=house.voltage_v, breaker_a=house.breaker_a, planned_share=rules.planned_share, used_a=house.used_a
        )
        if amps > circuit.free_a:
            others = f", {house.used_a:.1f} A on it already ({house.used_by})" if house.used_a else ""
            found.append(
                Caution(
                    code="breaker",
                    title=f"Too much on {name}",
                    trigger=f"{amps:.1f} A of ours{others}, {circuit.limit_a:.1f} A planned of {house.breaker_a:.0f} A",
                    action="Spread it over other circuits, dim, or take batteries; a licensed person for anything beyond a plug.",
                )
            )
    return found


def _glare(lit: Lit) -> list[Caution]:
    return [
        Caution(
            code="glare",
            title=f"Bright for {face.person.name}",
            trigger=f"{face.nose_lx:,.0f} lx at the eyes, from {GLARE_LX:,.0f} people squint",
            action="Larger, farther or more from the side; ask how they feel.",
        )
        for face in lit_faces(lit)
        if face.nose_lx >= GLARE_LX
    ]


def _hot_spots(lit: Lit, rules: HouseRules) -> list[Caution]:
    return [
        Caution(
            code="hot-spot",
            title=f"Hot spot of {spill.light} on {spill.surface}",
            trigger=f"{spill.stops:+.1f} stops over middle grey, {spill.illuminance_lx:,.0f} lx at {spoken.length(spill.x_m, rules.units)} across, {spoken.length(spill.z_m, rules.units)} high",
            action="Flag it off, turn it, or let it be the look.",
        )
        for spill in brightest_spill(lit, rules.receptor)
        if spill.stops >= HOT_SPOT_STOPS
    ]
