"""Crews with roles, signing in kept on the server, one-time links, what was done told. Older processes may serve
meanwhile: whoever and whatever they add belongs to the first crew.
"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None

_WHEN = DATETIME(fsp=6)
_TABLE: dict[str, Any] = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4", "if_not_exists": True}


def _person(table: str, **more: Any) -> "sa.Column[Any]":
    key = sa.ForeignKey("people.id", name=f"fk_{table}_person_id", ondelete="CASCADE")
    return sa.Column("person_id", sa.BigInteger(), key, nullable=False, **more)


def _crews() -> None:
    op.create_table(
        "standing_crews",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("made_at", _WHEN, nullable=False),
        **_TABLE,
    )
    op.execute("INSERT IGNORE INTO standing_crews (id, name, made_at) VALUES (1, 'Our crew', UTC_TIMESTAMP(6))")
    op.create_table(
        "standing_crew_people",
        sa.Column(
            "crew_id",
            sa.BigInteger(),
            sa.ForeignKey("standing_crews.id", name="fk_standing_crew_people_crew_id", ondelete="CASCADE"),
            primary_key=True,
        ),
        _person("standing_crew_people", primary_key=True),
        sa.Column("role", sa.String(12), nullable=False),
        **_TABLE,
    )
    op.create_index("ix_standing_crew_people_person_id", "standing_crew_people", ["person_id"], if_not_exists=True)
    # Gear and places were everybody's until now.
    op.execute("INSERT IGNORE INTO standing_crew_people (crew_id, person_id, role) SELECT 1, id, 'gaffer' FROM people")
    op.get_bind().commit()
    for table in ("jobs", "places", "gear", "readings", "spectra", "history"):
        op.execute(f"ALTER TABLE {table} ADD COLUMN IF NOT EXISTS crew_id BIGINT NOT NULL DEFAULT 1")
        op.create_index(f"ix_{table}_crew_id", table, ["crew_id"], if_not_exists=True)
        op.execute(
            f"ALTER TABLE {table} ADD CONSTRAINT fk_{table}_crew_id FOREIGN KEY IF NOT EXISTS (crew_id)"
            " REFERENCES standing_crews (id)"
        )
    op.execute("ALTER TABLE gear ADD UNIQUE INDEX IF NOT EXISTS uq_gear_crew_id (crew_id, slug)")
    op.execute("ALTER TABLE gear DROP INDEX IF EXISTS uq_gear_slug")
    op.execute("ALTER TABLE crews ADD COLUMN IF NOT EXISTS role VARCHAR(12) NOT NULL DEFAULT 'gaffer'")


def _people() -> None:
    op.execute("ALTER TABLE people ADD COLUMN IF NOT EXISTS is_admin BOOL NOT NULL DEFAULT 0")
    op.execute("ALTER TABLE people ADD COLUMN IF NOT EXISTS is_disabled BOOL NOT NULL DEFAULT 0")
    op.create_table(
        "sign_ins",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column("token_digest", sa.String(64), nullable=False),
        _person("sign_ins"),
        sa.Column("began_at", _WHEN, nullable=False),
        sa.Column("seen_at", _WHEN, nullable=False),
        sa.Column("ended_at", _WHEN, nullable=True),
        sa.Column("address", sa.String(45), nullable=False),
        sa.Column("device", sa.String(200), nullable=False),
        sa.UniqueConstraint("token_digest", name="uq_sign_ins_token_digest"),
        **_TABLE,
    )
    op.create_index("ix_sign_ins_person_id", "sign_ins", ["person_id"], if_not_exists=True)
    op.create_table(
        "sign_in_tries",
        sa.Column("subject", sa.String(64), primary_key=True),
        sa.Column("since", _WHEN, primary_key=True),
        sa.Column("count", sa.BigInteger(), nullable=False),
        **_TABLE,
    )
    op.create_table(
        "one_time_codes",
        sa.Column("digest", sa.String(64), primary_key=True),
        _person("one_time_codes"),
        sa.Column("made_at", _WHEN, nullable=False),
        sa.Column("expires_at", _WHEN, nullable=False),
        sa.Column("used_at", _WHEN, nullable=True),
        **_TABLE,
    )
    op.create_index("ix_one_time_codes_person_id", "one_time_codes", ["person_id"], if_not_exists=True)
    op.create_table(
        "events",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column("at", _WHEN, nullable=False),
        sa.Column(
            "person_id",
            sa.BigInteger(),
            sa.ForeignKey("people.id", name="fk_events_person_id", ondelete="SET NULL"),
            nullable=True,
        ),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("text", sa.String(300), nullable=False),
        sa.Column("address", sa.String(45), nullable=False),
        **_TABLE,
    )
    op.create_index("ix_events_person_id", "events", ["person_id"], if_not_exists=True)
    op.create_index("ix_events_at", "events", ["at"], if_not_exists=True)


def upgrade() -> None:
    _crews()
    _people()
    for table in ("shares", "kit_shares"):
        op.execute(f"ALTER TABLE {table} ADD COLUMN IF NOT EXISTS expires_at DATETIME(6) NULL")


def downgrade() -> None:
    raise NotImplementedError("before this one everybody saw all gear and places; go back to a copy made before")
