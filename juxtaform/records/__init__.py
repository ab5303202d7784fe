"""The records: models, migrations, the journal."""
