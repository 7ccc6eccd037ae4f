"""A set-up: camera, people and lamps placed in a place, and what comes of it.

``plan`` holds what was placed; ``staging`` makes a scene of it; ``ladder``, ``table``, ``clearance``, ``ways_out`` and ``differences`` say what it does.
"""
