"""What every table shares: names of constraints, InnoDB, one primary key."""

from collections.abc import Iterator, Sequence
from datetime import datetime
from typing import Any, ClassVar, TypeVar

from sqlalchemy import JSON, BigInteger, Double, MetaData
from sqlalchemy.dialects.mysql import DATETIME
from sqlalchemy.orm import DeclarativeBase

_NAMES = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s",
    "pk": "pk_%(table_name)s",
}
#: Of a list that the database joins into one text; forty letters a row are enough for four hundred thousand rows.
LONGEST_LIST = 16_000_000
TABLE_ARGS = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4"}


class Base(DeclarativeBase):
    """Tables of Iron Bucket. Times are UTC, kept without zone because MariaDB has none."""

    metadata = MetaData(naming_convention=_NAMES)
    type_annotation_map: ClassVar = {
        int: BigInteger,
        float: Double,
        datetime: DATETIME(fsp=6),
        dict[str, Any]: JSON,
        list[Any]: JSON,
    }
    __table_args__: Any = TABLE_ARGS


T = TypeVar("T")


def batched(of: Sequence[T], size: int = 500) -> Iterator[Sequence[T]]:
    """So many at a time as one statement names."""
    return (of[start : start + size] for start in range(0, len(of), size))
