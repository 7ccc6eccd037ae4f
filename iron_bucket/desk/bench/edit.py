"""Pieces of gear made, changed, copied, retired and restored."""

import re
from itertools import count
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bench.configuration import bare_configuration
from iron_bucket.core.bench.from_beam import BeamSeen, head_from_beam
from iron_bucket.core.checks import require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.desk.bench.changes import record_bench
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.history import Touch
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.gear_rows import GEAR_KINDS, item_of
from iron_bucket.store.bench import GearRow, configurations_of, gear_by_slug, slugs_like
from iron_bucket.store.history import row_state

Row = dict[str, Any]


def free_slug(session: Session, name: str) -> str:
    """A slug from a name that nothing bears yet."""
    return slug_beside(name, slugs_like(session, _base(name)))


def _base(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60].strip("-") or "piece"


def slug_beside(name: str, taken: set[str]) -> str:
    """A slug from a name that is not among those taken."""
    base = _base(name)
    numbered = (base if number == 1 else f"{base}-{number}" for number in count(1))
    return next(slug for slug in numbered if slug not in taken)


def add_piece(session: Session, kind: str, row: Row, digest: str | None = None) -> Touch:
    """A new row of gear within an open transaction. Raises: BadValue."""
    return add_item(session, kind, item_of(kind, row), digest)


def add_item(session: Session, kind: str, item: Any, digest: str | None = None) -> Touch:
    """A piece that is a core value already, as a new row of gear."""
    made = GearRow(kind=kind, slug=item.slug, item=GEAR_KINDS[kind].write(item), digest=digest, changed_at=now())
    session.add(made)
    return Touch(table="gear", key=item.slug, before=None, after=row_state(made))


def get_piece(session: Session, slug: str, version: int | None = None) -> GearRow:
    """A piece, held until the transaction ends.

    Raises: NotFound; ChangedMeanwhile where ``version`` is not the newest.
    """
    row = gear_by_slug(session, slug, locked=True)
    if row is None:
        raise NotFound("there is no such piece on the bench")
    if version is not None and row.version != version:
        raise ChangedMeanwhile(f"“{row.item['name']}” was changed meanwhile; here is how it stands now")
    return row


def change_piece(session: Session, row: GearRow, item: Row) -> Touch:
    """Another flat row for a held piece within an open transaction. Raises: BadValue; the slug stays."""
    before = row_state(row)
    row.item = GEAR_KINDS[row.kind].write(item_of(row.kind, item | {"slug": row.slug}))
    row.version, row.changed_at = row.version + 1, now()
    session.flush()
    return Touch(table="gear", key=row.slug, before=before, after=row_state(row))


@one_transaction
def create(session: Session, person_id: int, kind: str, row: Row) -> str:
    """A new piece from a form; gives its slug. A head gets a bare configuration with it, so that it can be read and
    picked.

    Raises: BadValue.
    """
    if kind not in GEAR_KINDS:
        raise BadValue("kind", repr(kind), "one of " + ", ".join(GEAR_KINDS))
    require_word("name", str(row.get("name", "")))
    slug = free_slug(session, str(row["name"]))
    touches = [add_piece(session, kind, row | {"slug": slug})]
    if kind == "heads":
        bare = bare_configuration(item_of("heads", row | {"slug": slug}))
        touches.append(add_item(session, "configurations", bare))
    record_bench(session, person_id, slug, f"made {row['name']}", touches)
    return slug


@one_transaction
def create_by_beam(session: Session, person_id: int, seen: BeamSeen) -> str:
    """A head with one configuration, from what is known of its beam; gives its slug. Raises: BadValue."""
    slug = free_slug(session, seen.name)
    head, configuration = head_from_beam(slug, seen)
    touches = [add_item(session, "heads", head), add_item(session, "configurations", configuration)]
    record_bench(session, person_id, slug, f"made {seen.name}", touches)
    return slug


@one_transaction
def create_configuration(session: Session, person_id: int, head_slug: str, row: Row) -> str:
    """A new configuration of a head; gives its slug. Raises: NotFound, BadValue."""
    head = get_piece(session, head_slug)
    require_word("name", str(row.get("name", "")))
    slug = free_slug(session, f"{head_slug}-{row['name']}")
    touch = add_piece(
        session, "configurations", row | {"slug": slug, "head_slug": head_slug, "maker": head.item.get("maker", "")}
    )
    record_bench(session, person_id, head_slug, f"made {row['name']} of {head.item['name']}", [touch])
    return slug


@one_transaction
def create_unit(session: Session, person_id: int, head_slug: str, row: Row) -> str:
    """A very lamp of a model; gives its slug. Raises: NotFound, BadValue."""
    head = get_piece(session, head_slug)
    require_word("name", str(row.get("name", "")))
    slug = free_slug(session, f"{head_slug}-{row['name']}")
    touch = add_piece(session, "units", row | {"slug": slug, "head_slug": head_slug})
    record_bench(session, person_id, head_slug, f"added unit {row['name']} of {head.item['name']}", [touch])
    return slug


@one_transaction
def change(session: Session, person_id: int, slug: str, version: int, item: Row) -> None:
    """Change a piece's figures. Raises: NotFound, ChangedMeanwhile, BadValue."""
    row = get_piece(session, slug, version)
    touch = change_piece(session, row, item)
    if touch.before is not None and touch.after is not None and touch.before["item"] != touch.after["item"]:
        record_bench(session, person_id, _told_of(row), f"changed {row.item['name']}", [touch])


@one_transaction
def copy(session: Session, person_id: int, slug: str) -> str:
    """A piece once more under another name; a head with all its configurations.

    Gives the new slug. Raises: NotFound.
    """
    row = get_piece(session, slug)
    name = f"{row.item['name'][:110]} (copy)"
    new_slug = free_slug(session, name)
    touches = [add_piece(session, row.kind, row.item | {"slug": new_slug, "name": name, "owned": 0})]
    if row.kind == "heads":
        for each in configurations_of(session, slug):
            renamed = (
                new_slug + each.slug.removeprefix(slug)
                if each.slug.startswith(slug)
                else free_slug(session, f"{new_slug}-{each.item['name']}")
            )
            touches.append(
                add_piece(session, "configurations", each.item | {"slug": renamed, "head_slug": new_slug, "owned": 0})
            )
    record_bench(session, person_id, new_slug, f"copied {row.item['name']}", touches)
    return new_slug


@one_transaction
def retire(session: Session, person_id: int, slug: str, *, is_retired: bool) -> None:
    """Put a piece away, so that nothing picks it, or bring it back. Raises: NotFound."""
    row = get_piece(session, slug)
    if bool(row.item.get("is_retired")) == is_retired:
        return
    touch = change_piece(session, row, row.item | {"is_retired": is_retired})
    record_bench(
        session, person_id, _told_of(row), f"{'retired' if is_retired else 'restored'} {row.item['name']}", [touch]
    )


def _told_of(row: GearRow) -> str:
    """Configurations and units are told of on the page of their head."""
    return str(row.item["head_slug"]) if row.kind in ("configurations", "units") else row.slug
