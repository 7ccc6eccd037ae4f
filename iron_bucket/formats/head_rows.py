"""A head as one flat row and back."""

from iron_bucket.core.bench.dimming import Dimming, DimmingCurve
from iron_bucket.core.bench.head import BatteryPlate, Head, MainsRange, Technology
from iron_bucket.core.bench.mode import Mode
from iron_bucket.core.errors import BadValue
from iron_bucket.core.power.load import Draw, DrawCurve
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row, figure_row, item_fields, item_row, kept

#: Of a plate that is no part of its head.
_APART = "separate"


def _plates(text: str) -> tuple[BatteryPlate, ...]:
    """``v-lock:2:0.6;d-tap:1:1:separate``: mount, plates, share of full output, whether they are no part of the
    head.
    """
    plates = []
    for part in filter(None, text.split(";")):
        try:
            mount, count, limit, *apart = part.split(":")
            if apart not in ([], [_APART]):
                raise ValueError(part)
            plates.append(
                BatteryPlate(mount=mount, plates=int(count), level_limit=float(limit), is_separate=bool(apart))
            )
        except ValueError as bad:
            if isinstance(bad, BadValue):
                raise
            raise BadValue(
                "battery_plates", repr(part), "mount:plates:share of full output, such as v-lock:2:0.6"
            ) from None
    return tuple(plates)


def _modes(text: str) -> tuple[Mode, ...]:
    """``silent:0.6:220::22``: name, share of full output, name-plate watts, measured watts or nothing, fan in dB(A)."""
    modes = []
    for part in filter(None, text.split(";")):
        try:
            name, share, nameplate_w, measured_w, fan_db = part.split(":")
            modes.append(
                Mode(
                    name=name.strip(),
                    output_share=float(share),
                    nameplate_w=float(nameplate_w),
                    measured_w=float(measured_w) if measured_w.strip() else None,
                    fan_db=float(fan_db),
                )
            )
        except ValueError as bad:
            if isinstance(bad, BadValue):
                raise
            raise BadValue(
                "modes",
                repr(part),
                "name:share of full output:watts:measured watts or nothing:dB(A), such as silent:0.6:220::22",
            ) from None
    return tuple(modes)


def _points(text: str) -> tuple[tuple[float, float], ...]:
    """``0.1:0.02;0.5:0.4;1:1``: settings and outputs."""
    points = []
    for part in filter(None, text.split(";")):
        try:
            setting, output = (float(each) for each in part.split(":"))
        except ValueError:
            raise BadValue("dimming_points", repr(part), "setting:output, such as 0.5:0.4") from None
        points.append((setting, output))
    return tuple(points)


def head_of(fields: Fields) -> Head:
    """A head from its row."""
    mains = (
        MainsRange(low_v=fields.number("mains_low_v"), high_v=fields.number("mains_high_v"))
        if fields.has("mains_low_v")
        else None
    )
    fields.perhaps("mains_high_v")
    return Head(
        **item_fields(fields),
        technology=fields.choice("technology", Technology),
        lumens=fields.figure("lumens"),
        draw=Draw(
            full_w=fields.figure("full_w"),
            idle_w=fields.number("idle_w", 0.0),
            power_factor=fields.number("power_factor", 1.0),
            curve=fields.choice("curve", DrawCurve, DrawCurve.ELECTRONIC),
        ),
        lowest_cct_k=fields.number("lowest_cct_k"),
        highest_cct_k=fields.number("highest_cct_k"),
        tint=fields.number("tint", 0.0),
        lowest_level=fields.number("lowest_level", 1.0),
        mains=mains,
        battery_plates=_plates(fields.word("battery_plates", "")),
        fan_db=fields.number("fan_db", 0.0),
        fitting=fields.word("fitting", ""),
        scrim_ring_mm=fields.number("scrim_ring_mm", 0.0),
        takes_gel=fields.yes("takes_gel", True),
        spigot_mm=fields.number("spigot_mm", 16.0),
        is_hot=fields.yes("is_hot"),
        warm_up_min=fields.number("warm_up_min", 0.0),
        restrike_min=fields.number("restrike_min", 0.0),
        nameplate_w=fields.perhaps("nameplate_w"),
        modes=_modes(fields.word("modes", "")),
        inrush_a=fields.number("inrush_a", 0.0),
        charge_w=fields.number("charge_w", 0.0),
        drift_mired=fields.number("drift_mired", 0.0),
        lowest_tint=fields.number("lowest_tint", 0.0),
        highest_tint=fields.number("highest_tint", 0.0),
        dimming=Dimming(
            curve=fields.choice("dimming", DimmingCurve, DimmingCurve.LINEAR),
            points=_points(fields.word("dimming_points", "")),
        ),
        driver_kg=fields.number("driver_kg", 0.0),
        cable_kg=fields.number("cable_kg", 0.0),
        weather=fields.word("weather", ""),
        control=fields.words("control"),
        channels=fields.whole("channels", 0),
        effects=fields.words("effects"),
        globe=fields.word("globe", ""),
        globe_life_h=fields.number("globe_life_h", 0.0),
    )


def head_row(head: Head) -> Row:
    """A head as its row."""
    return {
        **item_row(head),
        "technology": head.technology.value,
        **figure_row("full_w", head.draw.full_w),
        "idle_w": head.draw.idle_w,
        "power_factor": head.draw.power_factor,
        "curve": head.draw.curve.value,
        **figure_row("lumens", head.lumens),
        "lowest_cct_k": head.lowest_cct_k,
        "highest_cct_k": head.highest_cct_k,
        "tint": head.tint,
        "lowest_level": head.lowest_level,
        "mains_low_v": head.mains.low_v if head.mains else None,
        "mains_high_v": head.mains.high_v if head.mains else None,
        "battery_plates": ";".join(
            f"{plate.mount}:{plate.plates}:{plate.level_limit:g}" + (f":{_APART}" if plate.is_separate else "")
            for plate in head.battery_plates
        ),
        "fan_db": head.fan_db,
        "fitting": head.fitting,
        "scrim_ring_mm": head.scrim_ring_mm,
        "takes_gel": head.takes_gel,
        "spigot_mm": head.spigot_mm,
        "is_hot": head.is_hot,
        "warm_up_min": head.warm_up_min,
    } | _later_columns(head)


def _later_columns(head: Head) -> Row:
    """What many heads have nothing to say of; left out where they have not."""
    dimming = head.dimming
    return kept(
        {
            "restrike_min": head.restrike_min,
            "nameplate_w": head.nameplate_w,
            "modes": ";".join(
                f"{mode.name}:{mode.output_share:g}:{mode.nameplate_w:g}"
                f":{'' if mode.measured_w is None else f'{mode.measured_w:g}'}:{mode.fan_db:g}"
                for mode in head.modes
            ),
            "inrush_a": head.inrush_a,
            "charge_w": head.charge_w,
            "drift_mired": head.drift_mired,
            "lowest_tint": head.lowest_tint,
            "highest_tint": head.highest_tint,
            "dimming": "" if dimming.curve is DimmingCurve.LINEAR else dimming.curve.value,
            "dimming_points": ";".join(f"{setting!r}:{output!r}" for setting, output in dimming.points),
            "driver_kg": head.driver_kg,
            "cable_kg": head.cable_kg,
            "weather": head.weather,
            "control": ";".join(head.control),
            "channels": head.channels,
            "effects": ";".join(head.effects),
            "globe": head.globe,
            "globe_life_h": head.globe_life_h,
        }
    )
