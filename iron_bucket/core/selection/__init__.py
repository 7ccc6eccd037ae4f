"""Which heads, with what on and in front of them, give a needed light; and why every other one does not.

``pick`` is the way in. Arrays run over configurations, fronts and sheet sets; one candidate in words is ``explain``.
"""
