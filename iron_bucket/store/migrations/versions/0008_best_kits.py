"""Searches for the best kit of a job: how far each is, and what it found."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    key = sa.ForeignKey("jobs.id", name="fk_best_kits_job_id", ondelete="CASCADE")
    op.create_table(
        "best_kits",
        sa.Column("job_id", sa.BigInteger(), key, primary_key=True, autoincrement=False),
        sa.Column("run", sa.String(36), nullable=False),
        sa.Column("state", sa.String(12), nullable=False),
        sa.Column("goal", sa.JSON(), nullable=False),
        sa.Column("progress", sa.String(200), nullable=False),
        sa.Column("share", sa.Double(), nullable=False),
        sa.Column("result", sa.JSON(), nullable=False),
        sa.Column("begun_at", DATETIME(fsp=6), nullable=False),
        sa.Column("seen_at", DATETIME(fsp=6), nullable=False),
        mysql_engine="InnoDB",
        mysql_charset="utf8mb4",
        if_not_exists=True,
    )


def downgrade() -> None:
    op.drop_table("best_kits", if_exists=True)
