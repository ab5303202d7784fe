"""Alembic's entry: runs migrations on the engine it is handed."""

from alembic import context

from juxtaform.records.models import Base

engine = context.config.attributes["engine"]
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True)
    with context.begin_transaction():
        context.run_migrations()
    connection.commit()
