"""``iron-bucket exposure``: lux from camera, and whichever figure of the camera is left out from lux."""

from functools import partial

import click

from iron_bucket.command_line.answer import print_json
from iron_bucket.command_line.refusal import plain_refusals, typed
from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure import incident
from iron_bucket.core.exposure.incident import Camera, Receptor
from iron_bucket.core.exposure.shutter import exposure_time_s, shutter_angle_deg
from iron_bucket.core.quantities import parse as read

_fine = partial(read.number, is_fine=True)


@click.command()
@click.option("--t-stop", callback=typed("--t-stop", read.t_stop), help="2.8, T2.8 1/3 or f/4.")
@click.option("--iso", callback=typed("--iso", read.number), help="Exposure index.")
@click.option("--shutter", callback=typed("--shutter", read.shutter_s), help="Exposure time, such as 1/48.")
@click.option("--angle", callback=typed("--angle", _fine), help="Shutter angle in degrees, with --fps.")
@click.option("--fps", callback=typed("--fps", _fine), help="Frames a second.")
@click.option("--nd", callback=typed("--nd", read.stops), help="Filters in stops (2), or as a density (ND0.6).")
@click.option(
    "--meter",
    type=click.Choice([each.value for each in Receptor]),
    default=Receptor.DOME.value,
    show_default=True,
    help="The meter's receptor.",
)
@click.option("--json", "as_json", is_flag=True, help="JSON is printed in any case.")
@click.option(
    "--lux", callback=typed("--lux", read.illuminance_lx), help="The level there is; then leave one of the others out."
)
def exposure(
    t_stop: float | None,
    iso: float | None,
    shutter: float | None,
    angle: float | None,
    fps: float | None,
    nd: float | None,
    meter: str,
    lux: float | None,
    as_json: bool,
) -> None:
    """Lux from camera, or the missing figure of the camera from lux. Prints JSON."""
    with plain_refusals():
        if shutter is not None and angle is not None:
            raise BadValue("--angle", f"{angle:g} beside --shutter", "one of the two")
        if angle is not None and fps is None:
            raise BadValue("--fps", "missing", "frames a second, since the shutter is given as an angle")
        time_s = exposure_time_s(angle_deg=angle, fps=fps) if angle is not None and fps is not None else shutter
        receptor = Receptor(meter)
        found = (
            _level(t_stop, iso, time_s, nd, receptor)
            if lux is None
            else _solved(lux, t_stop, iso, time_s, nd, fps, receptor)
        )
    print_json(found)


def _level(
    t_stop: float | None, iso: float | None, time_s: float | None, nd: float | None, receptor: Receptor
) -> dict[str, float]:
    if t_stop is None or iso is None or time_s is None:
        missing = [
            name for name, value in (("--t-stop", t_stop), ("--iso", iso), ("--shutter", time_s)) if value is None
        ]
        raise BadValue(missing[0], "missing", "a value, or --lux to solve for it")
    return {
        "illuminance_lx": incident.illuminance_lx(
            Camera(t_stop=t_stop, iso=iso, time_s=time_s, filter_stops=nd or 0.0), receptor
        )
    }


def _solved(
    lux: float,
    t_stop: float | None,
    iso: float | None,
    time_s: float | None,
    nd: float | None,
    fps: float | None,
    receptor: Receptor,
) -> dict[str, float]:
    """The one figure left out; filters where the other three are there."""
    filters = nd or 0.0
    match (t_stop, iso, time_s):
        case (None, float(), float()):
            return {
                "t_stop": incident.t_stop_for(lux, iso=iso, time_s=time_s, filter_stops=filters, receptor=receptor),
                "illuminance_lx": lux,
            }
        case (float(), None, float()):
            return {
                "iso": incident.iso_for(lux, t_stop=t_stop, time_s=time_s, filter_stops=filters, receptor=receptor),
                "illuminance_lx": lux,
            }
        case (float(), float(), None):
            wanted_s = incident.time_s_for(lux, t_stop=t_stop, iso=iso, filter_stops=filters, receptor=receptor)
            angle = {"angle_deg": shutter_angle_deg(time_s=wanted_s, fps=fps)} if fps is not None else {}
            return {"shutter_s": wanted_s, **angle, "illuminance_lx": lux}
        case (float(), float(), float()) if nd is None:
            return {
                "nd_stops": incident.filter_stops_for(lux, t_stop=t_stop, iso=iso, time_s=time_s, receptor=receptor),
                "illuminance_lx": lux,
            }
    raise BadValue("--lux", f"{lux:g}", "exactly one of --t-stop, --iso, --shutter (or --angle) and --nd left out")
