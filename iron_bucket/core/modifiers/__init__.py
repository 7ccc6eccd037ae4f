"""What stands in the way of the beam: sheets, on-head faces, frames and bounces, and the chain that adds them up.

The kinds themselves are in ``kinds``; which exist on somebody's shelf is ``core/bench``.
"""
