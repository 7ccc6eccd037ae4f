"""Large files on their way in. Older processes may serve meanwhile."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    person = sa.ForeignKey("people.id", name="fk_uploads_person_id", ondelete="CASCADE")
    op.create_table(
        "uploads",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column("person_id", sa.BigInteger(), person, nullable=False),
        sa.Column("crew_id", sa.BigInteger(), nullable=False),
        sa.Column("kind", sa.String(10), nullable=False),
        sa.Column("choice", sa.String(10), nullable=False),
        sa.Column("state", sa.String(10), nullable=False),
        sa.Column("progress", sa.String(300), nullable=False),
        sa.Column("share", sa.Float(53), nullable=False),
        sa.Column("result", sa.JSON(), nullable=False),
        sa.Column("begun_at", DATETIME(fsp=6), nullable=False),
        sa.Column("seen_at", DATETIME(fsp=6), nullable=False),
        mysql_engine="InnoDB",
        mysql_charset="utf8mb4",
        if_not_exists=True,
    )
    op.create_index("ix_uploads_person_id", "uploads", ["person_id"], if_not_exists=True)


def downgrade() -> None:
    op.drop_table("uploads", if_exists=True)
