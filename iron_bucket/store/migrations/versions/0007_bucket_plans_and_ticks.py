"""What crews say of their buckets, ticks, the links that show a kit list, and what a job is known by everywhere."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def _job(table: str, *, is_key: bool = False) -> sa.Column[int]:
    key = sa.ForeignKey("jobs.id", name=f"fk_{table}_job_id", ondelete="CASCADE")
    return sa.Column("job_id", sa.BigInteger(), key, primary_key=is_key, autoincrement=False, nullable=False)


def _person(table: str) -> sa.Column[int]:
    return sa.Column(
        "person_id", sa.BigInteger(), sa.ForeignKey("people.id", name=f"fk_{table}_person_id"), nullable=False
    )


def upgrade() -> None:
    op.execute("ALTER TABLE jobs ADD COLUMN IF NOT EXISTS uid VARCHAR(36) NOT NULL DEFAULT ''")
    op.execute("UPDATE jobs SET uid = UUID() WHERE uid = ''")
    op.create_index("ix_jobs_uid", "jobs", ["uid"], if_not_exists=True)
    op.create_table(
        "bucket_plans",
        _job("bucket_plans", is_key=True),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("version", sa.BigInteger(), nullable=False),
        sa.Column("changed_at", DATETIME(fsp=6), nullable=False),
        mysql_engine="InnoDB",
        mysql_charset="utf8mb4",
        if_not_exists=True,
    )
    op.create_table(
        "ticks",
        sa.Column("tick_id", sa.String(36), primary_key=True),
        _job("ticks", is_key=True),
        sa.Column("thing", sa.String(160), nullable=False),
        sa.Column("stage", sa.String(12), nullable=False),
        sa.Column("count", sa.BigInteger(), nullable=False),
        sa.Column("trouble", sa.String(12), nullable=False),
        sa.Column("note", sa.String(200), nullable=False),
        _person("ticks"),
        sa.Column("made_at", DATETIME(fsp=6), nullable=False),
        sa.Column("received_at", DATETIME(fsp=6), nullable=False),
        mysql_engine="InnoDB",
        mysql_charset="utf8mb4",
        if_not_exists=True,
    )
    op.create_index("ix_ticks_job_id", "ticks", ["job_id", "received_at"], if_not_exists=True)
    op.create_table(
        "kit_shares",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        _job("kit_shares"),
        sa.Column("token", sa.String(64), nullable=False, unique=True),
        sa.Column("has_prices", sa.Boolean(), nullable=False),
        _person("kit_shares"),
        sa.Column("made_at", DATETIME(fsp=6), nullable=False),
        sa.Column("revoked_at", DATETIME(fsp=6), nullable=True),
        mysql_engine="InnoDB",
        mysql_charset="utf8mb4",
        if_not_exists=True,
    )
    op.create_index("ix_kit_shares_job_id", "kit_shares", ["job_id"], if_not_exists=True)


def downgrade() -> None:
    op.execute("ALTER TABLE jobs DROP COLUMN IF EXISTS uid")
    for table in ("kit_shares", "ticks", "bucket_plans"):
        op.drop_table(table, if_exists=True)
