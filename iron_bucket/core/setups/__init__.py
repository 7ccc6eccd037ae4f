"""A set-up: camera, people and lamps placed in a place, and what comes of it.

``plan`` holds what was placed; ``staging`` makes a scene of it, ``lit`` has it computed; ``ladder``, ``faces``,
``spill``, ``clearance``, ``fixes_for`` and ``differences``
say what comes of it.
"""
