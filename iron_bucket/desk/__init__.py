"""Use cases: load, ask the core, save, in one transaction each. The only floor that knows both store and core."""
