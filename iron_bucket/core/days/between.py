"""What has to be waited for between two set-ups: what is too hot to pack, will not strike again yet, or is empty."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from iron_bucket.core.typical import typical


@dataclass(frozen=True, slots=True, kw_only=True)
class BurningHead:
    """A head that burns in a pass: of which model, where it stands; ``restrike_min`` till it strikes again once it is
    off, ``warm_up_min`` till it gives its light.
    """

    slug: str
    name: str
    stands: tuple[float, float]
    is_hot: bool = False
    warm_up_min: float = 0.0
    restrike_min: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Running:
    """What of a pass matters to the next one. ``needs_wh``: by the slugs of the batteries that it empties."""

    place_id: int
    rig_min: int
    heads: tuple[BurningHead, ...] = ()
    needs_wh: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Batteries:
    """All of one kind that the job has: what they hold full, and what its chargers put back."""

    name: str
    holds_wh: float
    charge_w: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Wait:
    """``minutes`` from the cut of one pass to the shoot of the next at least, and ``why``."""

    minutes: int
    why: str


def wait_between(before: Running, after: Running, move_min: int, batteries: Mapping[str, Batteries]) -> Wait | None:
    """The longest of all; None where nothing has to be waited for."""
    found = (*_cooling(before, after, move_min), *_striking(before, after), *_charging(before, after, batteries))
    return max(found, key=lambda each: each.minutes, default=None)


def _cooling(before: Running, after: Running, move_min: int) -> Iterator[Wait]:
    """Hot heads cool before they are packed; they stay where the company stays."""
    hot = next((head for head in before.heads if head.is_hot), None)
    if hot is not None and before.place_id != after.place_id:
        cools = round(float(typical("power")["cool_down_min"]))
        yield Wait(
            minutes=cools + move_min + after.rig_min, why=f"{hot.name} cools for {cools} min before it is packed"
        )


def _striking(before: Running, after: Running) -> Iterator[Wait]:
    """What goes on burning where it stands need not strike again."""
    stays = {(head.slug, head.stands) for head in after.heads} if before.place_id == after.place_id else set()
    again = {head.slug for head in after.heads}
    for head in before.heads:
        if head.restrike_min and head.slug in again and (head.slug, head.stands) not in stays:
            minutes = round(head.restrike_min + head.warm_up_min)
            yield Wait(minutes=minutes, why=f"{head.name} strikes again and is warm after {minutes} min")


def _charging(before: Running, after: Running, batteries: Mapping[str, Batteries]) -> Iterator[Wait]:
    """What both empty together beyond what is there is charged in between, where anything charges it."""
    for kind, held in batteries.items():
        short_wh = before.needs_wh.get(kind, 0.0) + after.needs_wh.get(kind, 0.0) - held.holds_wh
        if short_wh > 0.0 and held.charge_w > 0.0 and before.needs_wh.get(kind) and after.needs_wh.get(kind):
            minutes = round(60.0 * short_wh / held.charge_w)
            yield Wait(minutes=minutes, why=f"{held.name}: {short_wh:.0f} Wh to be charged, {minutes} min")
