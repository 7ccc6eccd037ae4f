"""Where a piece of the bench stands: in set-ups, in what jobs bring for power, in buckets."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import Text, and_, func, or_, select, type_coerce
from sqlalchemy.orm import Session

from iron_bucket.store.base import batched
from iron_bucket.store.bench import GearRow
from iron_bucket.store.bucket import BucketLineRow, BucketPlanRow
from iron_bucket.store.crews import crew_of
from iron_bucket.store.jobs import JobRow
from iron_bucket.store.power import PowerRow
from iron_bucket.store.setups import SetupRow

#: So many pieces are looked for at once.
_AT_ONCE = 50


def gear_uses(session: Session, slugs: Sequence[str]) -> dict[str, list[str]]:
    """Of those that stand somewhere, where, in words. A head stands where a configuration or unit of it does."""
    if not slugs:
        return {}
    heads = {slug: slug for slug in slugs}
    of_head = func.json_value(GearRow.item, "$.head_slug")
    for slug, head in session.execute(select(GearRow.slug, of_head).where(of_head.in_(slugs))):
        heads[slug] = head
    found: dict[str, list[str]] = {}
    for some in batched(list(heads), _AT_ONCE):
        for text, where in _documents_with(session, some):
            for slug in some:
                if f'"{slug}"' in text:
                    for named in {slug, heads[slug]} & set(slugs):
                        found[named] = list(dict.fromkeys([*found.get(named, []), where]))
    return found


def _documents_with(session: Session, slugs: Sequence[str]) -> list[tuple[str, str]]:
    """Texts that name one of some pieces, each with where it stands in words."""

    def names_one(column: Any) -> Any:
        named = or_(*(type_coerce(column, Text).contains(f'"{slug}"', autoescape=True) for slug in slugs))
        return and_(JobRow.crew_id == crew_of(session), named)

    found = []
    placed = select(func.json_value(SetupRow.document, "$.name"), JobRow.name, type_coerce(SetupRow.document, Text))
    placed = placed.join(JobRow, JobRow.id == SetupRow.job_id).where(names_one(SetupRow.document))
    found += [(text, f"“{name}” of {job}") for name, job, text in session.execute(placed)]
    for kind, column, what in (
        (PowerRow, PowerRow.document, "the power"),
        (BucketPlanRow, BucketPlanRow.document, "the bucket"),
        (BucketLineRow, BucketLineRow.item, "the bucket"),
    ):
        said = select(JobRow.name, type_coerce(column, Text)).join(kind, kind.job_id == JobRow.id)
        found += [(text, f"{what} of {job}") for job, text in session.execute(said.where(names_one(column)))]
    return found
