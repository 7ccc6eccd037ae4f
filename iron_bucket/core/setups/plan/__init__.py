"""What was placed and how the camera is set: set-ups as values, and changes to them.

Nothing here is computed from light.
"""
