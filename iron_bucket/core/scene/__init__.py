"""Lamps, frames, solids and marks in space, the room around them, and what every lamp does at every mark.

Metres, right-handed, z up. ``scene`` holds the values, ``blocking`` what stands in the way, ``sources`` what a lamp or
a lit frame sends, ``box_room``
the walls that send it on, ``mark_levels`` all of it together. Nothing here knows a plan or a page.
"""
