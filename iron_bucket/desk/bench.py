"""The shelf: all gear, kept ready for picking; search; a photometric file taken in."""

import hashlib
import re
import threading
from dataclasses import dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.bench.configuration import Configuration, EmittingFace, FaceShape
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head, MainsRange, Technology
from iron_bucket.core.checks import require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import TRUST, Figure, Origin
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.luminaire import Luminaire
from iron_bucket.core.power.load import Draw, DrawCurve
from iron_bucket.core.selection.packing import PackedBench, pack
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.gear_rows import GEAR_KINDS, item_of
from iron_bucket.formats.photometric import read_photometric
from iron_bucket.store.bench import GearRow, all_gear, gear_by_digest, gear_stamp, slugs_like

#: A point in a file still glows from somewhere; this is the width that its apparent size is reckoned with.
POINT_OPENING_M = 0.05
_HOT = (Technology.TUNGSTEN, Technology.HMI)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Shelf:
    """All gear as it stands, and the same laid out for picking."""

    stamp: tuple[int, int, str]
    gear: Gear
    packed: PackedBench


_KEPT: dict[str, Shelf] = {}
_LOCK = threading.Lock()


def shelf_in(session: Session) -> Shelf:
    """The shelf within an open transaction: read anew only where something on it has changed."""
    address, stamp = str(session.get_bind().url), gear_stamp(session)  # type: ignore[union-attr]
    with _LOCK:
        kept = _KEPT.get(address)
        if kept is None or kept.stamp != stamp:
            lists: dict[str, list[object]] = {kind: [] for kind in GEAR_KINDS}
            for row in all_gear(session):
                lists[row.kind].append(item_of(row.kind, row.item))
            gear = Gear(**{kind: tuple(items) for kind, items in lists.items()})  # type: ignore[arg-type]
            kept = _KEPT[address] = Shelf(stamp=stamp, gear=gear, packed=pack(gear))
        return kept


@one_transaction
def shelf(session: Session) -> Shelf:
    """The shelf."""
    return shelf_in(session)


@one_transaction
def load_gear(session: Session, gear: Gear) -> int:
    """Put gear on an empty shelf; gives how many pieces. On one that holds anything it does nothing."""
    if gear_stamp(session)[0]:
        return 0
    rows = [
        GearRow(kind=kind, slug=item.slug, item=each.write(item), changed_at=now())
        for kind, each in GEAR_KINDS.items()
        for item in getattr(gear, kind)
    ]
    session.add_all(rows)
    return len(rows)


@dataclass(frozen=True, slots=True, kw_only=True)
class UploadWish:
    """What a photometric file does not tell: what the lamp is."""

    name: str
    technology: Technology
    cct_k: float
    weight_kg: float
    watts: float | None = None
    owned: int = 0
    day_price: float | None = None


@one_transaction
def take_in_file(session: Session, data: bytes, file_name: str, wish: UploadWish) -> str:
    """A head with one configuration from a photometric file, its figures marked claimed; gives the head's slug.

    A file of the same content is not taken in twice: the head that it became is given back.
    Raises: FormatError for a file that cannot be read; BadValue for a wish, or a file without watts and no wish for them.
    """
    luminaire = read_photometric(data, file_name)
    digest = hashlib.sha256(data).hexdigest()
    known = gear_by_digest(session, digest)
    if known is not None:
        return str(known.item["head_slug"])
    name = wish.name.strip() or luminaire.name
    require_word("name", name)
    slug = _free_slug(session, name)
    head, configuration = _head(slug, name, luminaire, wish), _configuration(slug, file_name, luminaire, wish)
    for kind, item, mark in (("heads", head, None), ("configurations", configuration, digest)):
        session.add(
            GearRow(kind=kind, slug=item.slug, item=GEAR_KINDS[kind].write(item), digest=mark, changed_at=now())
        )
    return slug


def _free_slug(session: Session, name: str) -> str:
    base = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60] or "lamp"
    taken = slugs_like(session, base)
    return next(
        slug
        for number in range(1, len(taken) + 3)
        if (slug := base if number == 1 else f"{base}-{number}") not in taken
    )


def _head(slug: str, name: str, luminaire: Luminaire, wish: UploadWish) -> Head:
    watts = wish.watts or luminaire.input_w
    if watts is None:
        raise BadValue("watts", "missing in the file", "the watts that the lamp draws, typed beside the file")
    is_led = wish.technology.is_led
    return Head(
        slug=slug,
        name=name[:120],
        maker=luminaire.maker,
        weight_kg=wish.weight_kg,
        day_price=wish.day_price,
        owned=wish.owned,
        technology=wish.technology,
        lumens=Figure(value=lumens(luminaire.distribution), origin=Origin.CLAIMED),
        draw=Draw(
            full_w=Figure(value=watts, origin=Origin.CLAIMED),
            idle_w=0.0,
            power_factor=0.95 if is_led else 1.0,
            curve=DrawCurve.FILAMENT if wish.technology is Technology.TUNGSTEN else DrawCurve.ELECTRONIC,
        ),
        lowest_cct_k=wish.cct_k,
        highest_cct_k=wish.cct_k,
        lowest_level=0.01 if is_led or wish.technology is Technology.TUNGSTEN else 1.0,
        mains=MainsRange(low_v=100, high_v=240),
        is_hot=wish.technology in _HOT,
    )


def _configuration(slug: str, file_name: str, luminaire: Luminaire, wish: UploadWish) -> Configuration:
    width, height = (side or POINT_OPENING_M for side in luminaire.opening_m)
    shape = FaceShape.DISC if luminaire.is_round or 0.0 in luminaire.opening_m else FaceShape.RECTANGLE
    return Configuration(
        slug=f"{slug}.file",
        name=f"as in {file_name[:80]}",
        maker=luminaire.maker,
        weight_kg=0.01,
        owned=wish.owned,
        head_slug=slug,
        distribution=luminaire.distribution,
        lumens=lumens(luminaire.distribution),
        face=EmittingFace(shape=shape, width_m=width, height_m=height),
        origin=Origin.CLAIMED,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class HeadView:
    """One head with its configurations, the best proven first."""

    head: Head
    configurations: tuple[Configuration, ...]


@one_transaction
def open_head(session: Session, slug: str) -> HeadView:
    """Raises: NotFound."""
    gear = shelf_in(session).gear
    head = next((each for each in gear.heads if each.slug == slug), None)
    if head is None:
        raise NotFound("there is no such head on the bench")
    return HeadView(
        head=head,
        configurations=tuple(
            sorted(
                (each for each in gear.configurations if each.head_slug == slug),
                key=lambda each: TRUST.index(each.origin),
            )
        ),
    )
