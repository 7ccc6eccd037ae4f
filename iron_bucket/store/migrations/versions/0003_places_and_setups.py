"""Places, set-ups with all their states, looks, and shared links.

Only new tables: an older process may go on serving.
"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

#: Every step may have been done by a start that was cut short: the database does not roll back what makes tables.
_TABLE: dict[str, Any] = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4", "if_not_exists": True}
_WHEN = DATETIME(fsp=6)


def _id() -> sa.Column[Any]:
    return sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True)


def _key(
    table: str, column: str, target: str, *, ondelete: str | None = None, nullable: bool = False, primary: bool = False
) -> sa.Column[Any]:
    key = sa.ForeignKey(target, ondelete=ondelete, name=f"fk_{table}_{column}")
    return sa.Column(column, sa.BigInteger(), key, nullable=nullable, primary_key=primary)


def _counted() -> list[sa.Column[Any]]:
    return [
        sa.Column("version", sa.BigInteger(), nullable=False, server_default="1"),
        sa.Column("at_state", sa.BigInteger(), nullable=False, server_default="0"),
        sa.Column("is_archived", sa.Boolean(), nullable=False, server_default="0"),
        sa.Column("created_at", _WHEN, nullable=False),
        sa.Column("changed_at", _WHEN, nullable=False),
    ]


def _states(table: str, owner: str) -> None:
    op.create_table(
        table,
        _id(),
        _key(table, "owner_id", owner, ondelete="CASCADE"),
        sa.Column("number", sa.BigInteger(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("text", sa.String(300), nullable=False),
        _key(table, "person_id", "people.id"),
        sa.Column("made_at", _WHEN, nullable=False),
        **_TABLE,
    )
    op.create_index(f"uq_{table}_owner_id", table, ["owner_id", "number"], unique=True, if_not_exists=True)


def upgrade() -> None:
    op.create_table("places", _id(), sa.Column("name", sa.String(120), nullable=False), *_counted(), **_TABLE)
    _states("place_states", "places.id")
    op.create_table(
        "setups",
        _id(),
        _key("setups", "job_id", "jobs.id", ondelete="CASCADE"),
        _key("setups", "place_id", "places.id"),
        _key("setups", "after_id", "setups.id", ondelete="SET NULL", nullable=True),
        sa.Column("rank", sa.BigInteger(), nullable=False, server_default="0"),
        *_counted(),
        **_TABLE,
    )
    for column in ("job_id", "place_id"):
        op.create_index(f"ix_setups_{column}", "setups", [column], if_not_exists=True)
    _states("setup_states", "setups.id")
    op.create_table(
        "looks",
        _key("looks", "job_id", "jobs.id", ondelete="CASCADE", primary=True),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("version", sa.BigInteger(), nullable=False, server_default="1"),
        sa.Column("changed_at", _WHEN, nullable=False),
        **_TABLE,
    )
    op.create_table(
        "shares",
        _id(),
        _key("shares", "setup_id", "setups.id", ondelete="CASCADE"),
        sa.Column("token", sa.String(64), nullable=False),
        _key("shares", "person_id", "people.id"),
        sa.Column("made_at", _WHEN, nullable=False),
        sa.Column("revoked_at", _WHEN, nullable=True),
        sa.UniqueConstraint("token", name="uq_shares_token"),
        **_TABLE,
    )
    op.create_index("ix_shares_setup_id", "shares", ["setup_id"], if_not_exists=True)


def downgrade() -> None:
    for table in ("shares", "looks", "setup_states", "setups", "place_states", "places"):
        op.drop_table(table)
