"""What lamps draw, what circuits, cables, batteries and generators bear.

Figures only: local codes and licensed people decide.
"""
