"""Rooms and what light does in them."""
