"""Alembic migrations; run by the application itself when it opens a database."""
