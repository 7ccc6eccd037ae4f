"""People, jobs with their crews and changes, buckets, gear."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None

#: Every step may have been done by a start that was cut short: the database does not roll back what makes tables.
_TABLE: dict[str, Any] = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4", "if_not_exists": True}
_WHEN = DATETIME(fsp=6)


def upgrade() -> None:
    op.create_table(
        "people",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("sign_in", sa.String(80), nullable=False),
        sa.Column("password_hash", sa.String(200), nullable=False),
        sa.Column("created_at", _WHEN, nullable=False),
        sa.UniqueConstraint("sign_in", name="uq_people_sign_in"),
        **_TABLE,
    )
    op.create_table(
        "jobs",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("places", sa.String(300), nullable=False),
        sa.Column("rules", sa.JSON(), nullable=False),
        sa.Column("version", sa.BigInteger(), nullable=False),
        sa.Column("is_archived", sa.Boolean(), nullable=False),
        sa.Column("created_at", _WHEN, nullable=False),
        sa.Column("changed_at", _WHEN, nullable=False),
        **_TABLE,
    )
    op.create_table(
        "crews",
        sa.Column(
            "job_id",
            sa.BigInteger(),
            sa.ForeignKey("jobs.id", ondelete="CASCADE", name="fk_crews_job_id"),
            primary_key=True,
        ),
        sa.Column(
            "person_id",
            sa.BigInteger(),
            sa.ForeignKey("people.id", ondelete="CASCADE", name="fk_crews_person_id"),
            primary_key=True,
        ),
        **_TABLE,
    )
    op.create_index("ix_crews_person_id", "crews", ["person_id"], if_not_exists=True)
    op.create_table(
        "changes",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column(
            "job_id",
            sa.BigInteger(),
            sa.ForeignKey("jobs.id", ondelete="CASCADE", name="fk_changes_job_id"),
            nullable=False,
        ),
        sa.Column(
            "person_id", sa.BigInteger(), sa.ForeignKey("people.id", name="fk_changes_person_id"), nullable=False
        ),
        sa.Column("subject", sa.String(20), nullable=False),
        sa.Column("text", sa.String(300), nullable=False),
        sa.Column("before", sa.JSON(), nullable=False),
        sa.Column("made_at", _WHEN, nullable=False),
        sa.Column("undone_at", _WHEN, nullable=True),
        **_TABLE,
    )
    op.create_index("ix_changes_job_id", "changes", ["job_id"], if_not_exists=True)
    op.create_table(
        "bucket_lines",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column(
            "job_id",
            sa.BigInteger(),
            sa.ForeignKey("jobs.id", ondelete="CASCADE", name="fk_bucket_lines_job_id"),
            nullable=False,
        ),
        sa.Column("number", sa.BigInteger(), nullable=False),
        sa.Column("parent_number", sa.BigInteger(), nullable=True),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("item", sa.JSON(), nullable=False),
        sa.Column("quantity", sa.BigInteger(), nullable=False),
        sa.Column("purpose", sa.String(200), nullable=False),
        sa.Column("level", sa.Float(53), nullable=False),
        sa.Column("fed_from", sa.String(10), nullable=False),
        sa.Column("area_m2", sa.Float(53), nullable=False),
        sa.Column("setting", sa.String(120), nullable=False),
        **_TABLE,
    )
    op.create_index("ix_bucket_lines_job_id", "bucket_lines", ["job_id"], if_not_exists=True)
    op.create_table(
        "gear",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("slug", sa.String(120), nullable=False),
        sa.Column("item", sa.JSON(), nullable=False),
        sa.Column("digest", sa.String(64), nullable=True),
        sa.Column("changed_at", _WHEN, nullable=False),
        sa.UniqueConstraint("slug", name="uq_gear_slug"),
        **_TABLE,
    )
    op.create_index("ix_gear_kind", "gear", ["kind"], if_not_exists=True)
    op.create_index("ix_gear_digest", "gear", ["digest"], if_not_exists=True)


def downgrade() -> None:
    for table in ("gear", "bucket_lines", "changes", "crews", "jobs", "people"):
        op.drop_table(table)
