"""A place as it was found: rooms, windows, surfaces, sockets, lamps of the house.

Metres on a plan, x to the right, y up the plan, z from the floor. A *bearing* runs clockwise from straight up the plan.
"""
