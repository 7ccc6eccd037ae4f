"""Photos of places."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME, MEDIUMBLOB

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "photos",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column(
            "place_id",
            sa.BigInteger(),
            sa.ForeignKey("places.id", name="fk_photos_place_id", ondelete="CASCADE"),
            nullable=False,
        ),
        sa.Column("caption", sa.String(200), nullable=False),
        sa.Column("width_px", sa.BigInteger(), nullable=False),
        sa.Column("height_px", sa.BigInteger(), nullable=False),
        sa.Column("data", MEDIUMBLOB(), nullable=False),
        sa.Column("person_id", sa.BigInteger(), sa.ForeignKey("people.id", name="fk_photos_person_id"), nullable=False),
        sa.Column("made_at", DATETIME(fsp=6), nullable=False),
        mysql_engine="InnoDB",
        mysql_charset="utf8mb4",
        if_not_exists=True,
    )
    op.create_index("ix_photos_place_id", "photos", ["place_id"], if_not_exists=True)


def downgrade() -> None:
    op.drop_table("photos", if_exists=True)
