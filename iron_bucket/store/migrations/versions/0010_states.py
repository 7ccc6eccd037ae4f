"""States kept once, by their differences; undo as an entry of its own. Older processes may serve meanwhile."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME, LONGBLOB

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "states",
        sa.Column("digest", sa.String(64), primary_key=True),
        sa.Column("base_digest", sa.String(64), nullable=True),
        sa.Column("depth", sa.BigInteger(), nullable=False),
        sa.Column("data", LONGBLOB(), nullable=False),
        sa.Column("made_at", DATETIME(fsp=6), nullable=False),
        mysql_engine="InnoDB",
        mysql_charset="utf8mb4",
        if_not_exists=True,
    )
    op.create_index("ix_states_base_digest", "states", ["base_digest"], if_not_exists=True)
    op.execute("ALTER TABLE history ADD COLUMN IF NOT EXISTS kind VARCHAR(10) NOT NULL DEFAULT 'change'")
    op.execute("ALTER TABLE history ADD COLUMN IF NOT EXISTS of_id BIGINT NULL")
    op.create_index("ix_history_of_id", "history", ["of_id"], if_not_exists=True)


def downgrade() -> None:
    op.drop_table("states", if_exists=True)
