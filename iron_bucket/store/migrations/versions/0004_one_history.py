"""One history for bench, jobs, places and set-ups; a place's and a set-up's document stands in its own row.

What was noted before goes along. Stop older processes first: their tables go away.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

_WHEN = DATETIME(fsp=6)
_INTO = "INSERT INTO history (scope, scope_number, person_id, slug, text, touched, made_at, undone_at, is_dropped)"


def _make_history() -> None:
    op.create_table(
        "history",
        sa.Column("id", sa.BigInteger(), primary_key=True, autoincrement=True),
        sa.Column("scope", sa.String(10), nullable=False),
        sa.Column("scope_number", sa.BigInteger(), nullable=False),
        sa.Column(
            "person_id", sa.BigInteger(), sa.ForeignKey("people.id", name="fk_history_person_id"), nullable=False
        ),
        sa.Column("slug", sa.String(120), nullable=False),
        sa.Column("text", sa.String(300), nullable=False),
        sa.Column("touched", sa.JSON(), nullable=False),
        sa.Column("made_at", _WHEN, nullable=False),
        sa.Column("undone_at", _WHEN, nullable=True),
        sa.Column("is_dropped", sa.Boolean(), nullable=False),
        mysql_engine="InnoDB",
        mysql_charset="utf8mb4",
        if_not_exists=True,
    )
    op.create_index("ix_history_scope", "history", ["scope", "scope_number", "is_dropped", "id"], if_not_exists=True)
    op.create_index("ix_history_slug", "history", ["slug"], if_not_exists=True)


def _stands(table: str) -> bool:
    return sa.inspect(op.get_bind()).has_table(table)


def _copy(scope: str, rest: str) -> None:
    """In one statement, so that a start that was cut short has copied a scope whole or not at all."""
    copied = sa.text("SELECT COUNT(*) FROM history WHERE scope = :scope")
    if not op.get_bind().execute(copied, {"scope": scope}).scalar_one():
        op.execute(f"{_INTO} {rest}")
        op.get_bind().commit()


def _documents(table: str, states: str, scope: str, name: str) -> None:
    """The state that stands into the row itself, each step between two states into the history."""
    op.execute(f"ALTER TABLE {table} ADD COLUMN IF NOT EXISTS document JSON NULL")
    columns = {each["name"] for each in sa.inspect(op.get_bind()).get_columns(table)}
    if _stands(states) and "at_state" in columns:
        op.execute(
            f"UPDATE {table} o JOIN {states} s ON s.owner_id = o.id AND s.number = o.at_state"
            " SET o.document = s.document"
        )
        row = "JSON_OBJECT({name}'document', JSON_EXTRACT({at}.document, '$'))"
        before, after = (row.format(name=name.format(at=at), at=at) for at in ("b", "s"))
        _copy(
            scope,
            f"SELECT '{scope}', s.owner_id, s.person_id, '', s.text,"
            f" JSON_ARRAY(JSON_OBJECT('table', '{table}', 'key', s.owner_id, 'before', {before}, 'after', {after})),"
            " s.made_at, IF(s.number > o.at_state, s.made_at, NULL), 0"
            f" FROM {states} s JOIN {states} b ON b.owner_id = s.owner_id AND b.number = s.number - 1"
            f" JOIN {table} o ON o.id = s.owner_id ORDER BY s.owner_id, s.number",
        )
    op.execute(f"ALTER TABLE {table} MODIFY document JSON NOT NULL")
    op.execute(f"ALTER TABLE {table} DROP COLUMN IF EXISTS at_state")
    op.execute(f"DROP TABLE IF EXISTS {states}")


def upgrade() -> None:
    _make_history()
    _documents("places", "place_states", "place", "'name', JSON_VALUE({at}.document, '$.name'), ")
    _documents("setups", "setup_states", "setup", "")
    # What a job was after a change had not been noted, so what is undone of it cannot be done again.
    if _stands("changes"):
        _copy(
            "job",
            "SELECT 'job', job_id, person_id, '', text, JSON_ARRAY(JSON_OBJECT('table',"
            " IF(subject = 'bucket', 'bucket_lines', 'jobs'), 'key', job_id, 'before', JSON_EXTRACT(`before`, '$'))),"
            " made_at, undone_at, undone_at IS NOT NULL FROM changes ORDER BY id",
        )
        op.execute("DROP TABLE changes")
    if _stands("bench_changes"):
        _copy(
            "bench",
            "SELECT 'bench', person_id, person_id, slug, text, touched, made_at, undone_at, undone_at IS NOT NULL"
            " FROM bench_changes ORDER BY id",
        )
        op.execute("DROP TABLE bench_changes")


def downgrade() -> None:
    raise NotImplementedError("the history before this one noted less; go back to a copy made before")
