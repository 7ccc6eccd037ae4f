"""SQLAlchemy models and queries, one module an aggregate. No craft arithmetic, and no commit: the desk commits."""
