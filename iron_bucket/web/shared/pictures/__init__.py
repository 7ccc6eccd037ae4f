"""Coordinates of the pictures: figures of the core become places on paper here, and nothing else happens."""
