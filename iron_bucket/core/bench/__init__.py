"""What stands on the shelf: heads, their configurations, batteries, stands, and all of it together as gear.

Modifiers have their kinds in ``core/modifiers/kinds``. Which of these fits a need is ``core/selection``.
"""
