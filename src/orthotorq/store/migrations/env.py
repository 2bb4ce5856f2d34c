"""Alembic environment: online only, the owner's connection, all in one transaction."""

from alembic import context
from sqlalchemy import create_engine, pool

config = context.config
engine = create_engine(config.attributes["url"], poolclass=pool.NullPool)
with engine.connect() as connection:
    context.configure(connection=connection)
    with context.begin_transaction():
        context.run_migrations()
