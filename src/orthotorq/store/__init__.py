"""PostgreSQL through SQLAlchemy: models, engine, migrations. Only services and commands open
sessions."""
