"""Holding it up: stands, wind, ceilings."""
