"""Readings, spectra, column maps, the bench's changes and its stamp; a version for each piece of gear.

An older process may go on serving meanwhile: what is new has defaults, and nothing that it reads has changed.
"""

from typing import Any
from uuid import uuid4

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None

#: Every step may have been done by a start that was cut short: the database does not roll back what makes tables.
_TABLE: dict[str, Any] = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4", "if_not_exists": True}
_WHEN = DATETIME(fsp=6)


def _id() -> sa.Column[Any]:
    return sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True)


def _person(table: str, *, nullable: bool) -> sa.Column[Any]:
    key = sa.ForeignKey("people.id", name=f"fk_{table}_person_id")
    return sa.Column("person_id", sa.BigInteger(), key, nullable=nullable)


def upgrade() -> None:
    op.add_column("gear", sa.Column("version", sa.BigInteger(), nullable=False, server_default="1"), if_not_exists=True)
    op.create_table("bench_stamp", _id(), sa.Column("token", sa.String(32), nullable=False), **_TABLE)
    op.execute(sa.text("INSERT IGNORE INTO bench_stamp (id, token) VALUES (1, :token)").bindparams(token=uuid4().hex))
    op.create_table(
        "readings",
        _id(),
        sa.Column("configuration_slug", sa.String(120), nullable=False),
        sa.Column("modifier_slug", sa.String(120), nullable=False),
        sa.Column("unit_slug", sa.String(120), nullable=False),
        sa.Column("item", sa.JSON(), nullable=False),
        _person("readings", nullable=True),
        sa.Column("is_struck", sa.Boolean(), nullable=False),
        sa.Column("made_at", _WHEN, nullable=False),
        **_TABLE,
    )
    for column in ("configuration_slug", "modifier_slug", "unit_slug"):
        op.create_index(f"ix_readings_{column}", "readings", [column], if_not_exists=True)
    op.create_table(
        "column_maps",
        sa.Column(
            "person_id",
            sa.BigInteger(),
            sa.ForeignKey("people.id", ondelete="CASCADE", name="fk_column_maps_person_id"),
            primary_key=True,
        ),
        sa.Column("signature", sa.String(190), primary_key=True),
        sa.Column("uses", sa.JSON(), nullable=False),
        **_TABLE,
    )
    op.create_table(
        "spectra",
        _id(),
        sa.Column("subject_slug", sa.String(120), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("item", sa.JSON(), nullable=False),
        sa.Column("figures", sa.JSON(), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        _person("spectra", nullable=True),
        sa.Column("made_at", _WHEN, nullable=False),
        **_TABLE,
    )
    for column in ("subject_slug", "digest"):
        op.create_index(f"ix_spectra_{column}", "spectra", [column], if_not_exists=True)
    op.create_table(
        "bench_changes",
        _id(),
        _person("bench_changes", nullable=False),
        sa.Column("slug", sa.String(120), nullable=False),
        sa.Column("text", sa.String(300), nullable=False),
        sa.Column("touched", sa.JSON(), nullable=False),
        sa.Column("made_at", _WHEN, nullable=False),
        sa.Column("undone_at", _WHEN, nullable=True),
        **_TABLE,
    )
    op.create_index("ix_bench_changes_slug", "bench_changes", ["slug"], if_not_exists=True)
    op.create_index("ix_bench_changes_standing", "bench_changes", ["person_id", "undone_at", "id"], if_not_exists=True)


def downgrade() -> None:
    for table in ("bench_changes", "spectra", "column_maps", "readings", "bench_stamp"):
        op.drop_table(table)
    op.drop_column("gear", "version")
