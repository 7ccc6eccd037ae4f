"""Photometric files: taken in as heads, and configurations given out again."""

import hashlib
from dataclasses import dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.bench.configuration import Configuration, EmittingFace, FaceShape
from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.bench.usual_head import usual_head
from iron_bucket.core.checks import require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.luminaire import Luminaire
from iron_bucket.core.photometry.resampled import on_c_planes
from iron_bucket.core.photometry.tabulated import Tabulated
from iron_bucket.desk.bench.changes import record_bench
from iron_bucket.desk.bench.edit import add_item, slug_beside
from iron_bucket.desk.bench.shelf import shelf_in
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.history import Touch
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.eulumdat_writer import write_eulumdat
from iron_bucket.formats.lm63_writer import write_lm63
from iron_bucket.formats.photometric import read_photometric
from iron_bucket.formats.written import Written
from iron_bucket.store.bench import all_slugs, digests_known

#: A point in a file still glows from somewhere; this is the width that its apparent size is computed with.
POINT_OPENING_M = 0.05
_WRITERS = {"ies": write_lm63, "ldt": write_eulumdat}


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


@dataclass(frozen=True, slots=True, kw_only=True)
class TakenIn:
    """What became of one file: the head that it is now (``is_new``, or one that was there before), or why it was
    refused.
    """

    file_name: str
    head_slug: str | None = None
    name: str = ""
    is_new: bool = False
    trouble: str = ""
    notes: tuple[str, ...] = ()


@one_transaction
def take_in_files(
    session: Session, person_id: int, files: tuple[tuple[str, bytes], ...], wish: UploadWish
) -> tuple[TakenIn, ...]:
    """A head with one configuration from each photometric file, its figures marked claimed, in one change that can be
    undone.

    One bad file does not spoil the rest; content that is there already is not taken in twice. A name is only for a
    single file.
    """
    digests = [hashlib.sha256(data).hexdigest() for _, data in files]
    known, taken = digests_known(session, digests), all_slugs(session)
    results, touches = [], []
    for (file_name, data), digest in zip(files, digests, strict=True):
        if digest in known:
            results.append(TakenIn(file_name=file_name, head_slug=known[digest], name=known[digest]))
            continue
        try:
            luminaire = read_photometric(data, file_name)
            head, configuration = _pieces(taken, luminaire, file_name, wish, is_alone=len(files) == 1)
        except (FormatError, BadValue) as bad:
            results.append(TakenIn(file_name=file_name, trouble=str(bad)))
            continue
        touches.append(add_item(session, "heads", head))
        touches.append(add_item(session, "configurations", configuration, digest))
        known[digest] = head.slug
        taken |= {head.slug, configuration.slug}
        results.append(
            TakenIn(file_name=file_name, head_slug=head.slug, name=head.name, is_new=True, notes=luminaire.notes)
        )
    _record(session, person_id, results, touches)
    return tuple(results)


def _record(session: Session, person_id: int, results: list[TakenIn], touches: list[Touch]) -> None:
    new = [each for each in results if each.is_new]
    if new:
        told = f"imported {new[0].file_name}" if len(new) == 1 else f"imported {len(new)} photometric files"
        record_bench(session, person_id, str(new[0].head_slug), told, touches)


def _pieces(
    taken: set[str], luminaire: Luminaire, file_name: str, wish: UploadWish, *, is_alone: bool
) -> tuple[Head, Configuration]:
    name = (wish.name.strip() if is_alone else "") or luminaire.name or file_name.rpartition(".")[0]
    require_word("name", name)
    slug = slug_beside(name, taken)
    return _head(slug, name, luminaire, wish), _configuration(slug, file_name, luminaire, wish)


def _head(slug: str, name: str, luminaire: Luminaire, wish: UploadWish) -> Head:
    watts = wish.watts or luminaire.input_w
    if watts is None:
        raise BadValue("watts", "missing in the file", "the watts that the lamp draws, typed beside the file")
    return usual_head(
        {
            "slug": slug,
            "name": name[:120],
            "maker": luminaire.maker,
            "weight_kg": wish.weight_kg,
            "owned": wish.owned,
            "day_price": wish.day_price,
        },
        wish.technology,
        lumens=Figure(value=lumens(luminaire.distribution), origin=Origin.CLAIMED),
        full_w=Figure(value=watts, origin=Origin.CLAIMED),
        cct_k=wish.cct_k,
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


@one_transaction
def give_out_file(session: Session, configuration_slug: str, ending: str) -> Written:
    """A configuration, as it is in use, as a photometric file.

    Raises: NotFound, also for an ending that nothing writes.
    """
    gear = shelf_in(session).gear
    configuration = gear.find(Configuration, configuration_slug)
    if configuration is None or ending not in _WRITERS:
        raise NotFound("there is no such file to give out; accepted: .ies and .ldt of a configuration")
    return _WRITERS[ending](luminaire_of(configuration, gear.head(configuration.head_slug)))


def luminaire_of(configuration: Configuration, head: Head) -> Luminaire:
    """What a photometric file tells of a configuration. Beams that are formulas are laid out as tables."""
    distribution = configuration.distribution
    face = configuration.face
    return Luminaire(
        file_format="",
        revision=None,
        name=f"{head.name}, {configuration.name}",
        maker=head.maker,
        distribution=distribution if isinstance(distribution, Tabulated) else on_c_planes(distribution),
        input_w=head.draw.full_w.value,
        rated_lamp_lumens=None,
        opening_m=(face.width_m, face.height_m),
        is_round=face.shape is FaceShape.DISC,
    )
