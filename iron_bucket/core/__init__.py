"""The craft: rules and computation. No Flask, no SQLAlchemy, no files, no clock, no log."""
