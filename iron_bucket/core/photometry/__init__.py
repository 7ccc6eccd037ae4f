"""Intensity distributions, lumens, beams, and the faces whose near field does not obey inverse square.

Nothing here knows what a lamp is called or what stands in front of it.
"""
