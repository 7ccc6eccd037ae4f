"""How rows stood: each state kept once, whole or as its difference to another, under the digest of its text."""

import hashlib
from collections.abc import Collection, Iterable
from datetime import datetime
from typing import Any, NamedTuple

import orjson
import zstandard
from sqlalchemy import LargeBinary, String, bindparam, delete, insert, select, text, update
from sqlalchemy.orm import Mapped, Session, mapped_column

from iron_bucket.store.base import Base, batched

State = dict[str, Any]
#: A chain of differences is followed at most so far; the next state is kept whole.
LONGEST_CHAIN = 24
_MOST_BYTES = 2**32 - 1
#: Far enough for a difference to reach back over the whole of what it differs from.
_WINDOW_LOG = 25


class StateRow(Base):
    """``data``: the compressed text, told by what differs from the state ``base_digest`` where that is given. ``depth``
    counts the differences down to a whole one.
    """

    __tablename__ = "states"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    base_digest: Mapped[str | None] = mapped_column(String(64), index=True)
    depth: Mapped[int]
    data: Mapped[bytes] = mapped_column(LargeBinary(_MOST_BYTES))
    made_at: Mapped[datetime]


class Step(NamedTuple):
    """From one state to the next; None where there was nothing, or is nothing any more."""

    before: State | None
    after: State | None


def keep_states(session: Session, steps: Iterable[Step], at: datetime) -> list[tuple[str | None, str | None]]:
    """The digests of both ends of each step, which are kept now: two queries, however many."""
    texts = [(_text(step.before), _text(step.after)) for step in steps]
    digests = [(_digest(before), _digest(after)) for before, after in texts]
    depths = _depths(session, {digest for pair in digests for digest in pair if digest})
    rows = []
    for (before, after), (at_before, at_after) in zip(texts, digests, strict=True):
        if before is not None and at_before not in depths:
            rows.append(_row(before, None, at))
            depths[str(at_before)] = 0
        if after is None or at_after in depths:
            continue
        is_chained = before is not None and depths[str(at_before)] < LONGEST_CHAIN
        depths[str(at_after)] = depths[str(at_before)] + 1 if is_chained else 0
        rows.append(_row(after, before if is_chained else None, at) | {"depth": depths[str(at_after)]})
    if rows:  # another change may have brought the same state at this moment
        session.execute(insert(StateRow).prefix_with("IGNORE"), rows)
    return digests


def states_by_digest(session: Session, digests: Iterable[str]) -> dict[str, State]:
    """Some states, by their digests: one query. What is not kept any more is not among them."""
    wanted = set(digests)
    return {digest: orjson.loads(of) for digest, of in _texts(session, wanted).items()} if wanted else {}


def _texts(session: Session, wanted: Collection[str]) -> dict[str, bytes]:
    query = text(
        "WITH RECURSIVE chain AS ("
        "SELECT digest, base_digest, depth, data FROM states WHERE digest IN :wanted"
        " UNION SELECT s.digest, s.base_digest, s.depth, s.data FROM states s JOIN chain c ON s.digest = c.base_digest"
        ") SELECT digest, base_digest, data FROM chain ORDER BY depth"
    ).bindparams(bindparam("wanted", expanding=True))
    texts: dict[str, bytes] = {}
    for digest, base_digest, data in session.execute(query, {"wanted": list(wanted)}):
        texts[digest] = _unpacked(data, texts[base_digest] if base_digest else None)
    return {digest: texts[digest] for digest in wanted if digest in texts}


def drop_states(session: Session, named: Collection[str]) -> int:
    """Take away all but some states; gives how many went. What was told by one that goes is told whole from then on.

    All are held meanwhile: whoever names one again at this moment waits, and keeps it anew.
    """
    held = select(StateRow.digest, StateRow.base_digest).with_for_update()
    bases: dict[str, str | None] = dict(session.execute(held).all())
    loose = [digest for digest in named if (base := bases.get(digest)) and base not in named]
    for some in batched(loose):
        for digest, of in _texts(session, some).items():
            whole = update(StateRow).where(StateRow.digest == digest)
            session.execute(whole.values(base_digest=None, depth=0, data=_packer(None).compress(of)))
    gone = [digest for digest in bases if digest not in named]
    for some in batched(gone):
        session.execute(delete(StateRow).where(StateRow.digest.in_(some)))
    return len(gone)


def _depths(session: Session, digests: set[str]) -> dict[str, int]:
    """Held, so that nothing that is named again is taken away meanwhile."""
    query = select(StateRow.digest, StateRow.depth).where(StateRow.digest.in_(digests)).with_for_update(read=True)
    return dict(session.execute(query).all()) if digests else {}


def _text(state: State | None) -> bytes | None:
    return None if state is None else orjson.dumps(state, option=orjson.OPT_SORT_KEYS)


def _digest(of: bytes | None) -> str | None:
    return None if of is None else hashlib.sha256(of).hexdigest()


def _row(of: bytes, base: bytes | None, at: datetime) -> dict[str, Any]:
    packed = _packer(base).compress(of)
    return {"digest": _digest(of), "base_digest": _digest(base), "depth": 0, "data": packed, "made_at": at}


def _packer(base: bytes | None) -> zstandard.ZstdCompressor:
    settings = zstandard.ZstdCompressionParameters.from_level(6, window_log=_WINDOW_LOG if base else 0)
    return zstandard.ZstdCompressor(dict_data=_dictionary(base), compression_params=settings)


def _unpacked(data: bytes, base: bytes | None) -> bytes:
    return zstandard.ZstdDecompressor(dict_data=_dictionary(base), max_window_size=2**_WINDOW_LOG).decompress(data)


def _dictionary(base: bytes | None) -> zstandard.ZstdCompressionDict | None:
    return zstandard.ZstdCompressionDict(base, dict_type=zstandard.DICT_TYPE_RAWCONTENT) if base else None
