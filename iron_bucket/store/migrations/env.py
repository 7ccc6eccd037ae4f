"""How Alembic runs here: on the connection that ``store.schema.migrate`` hands over."""

from alembic import context

from iron_bucket.store.schema import METADATA

context.configure(connection=context.config.attributes["connection"], target_metadata=METADATA)
with context.begin_transaction():
    context.run_migrations()
