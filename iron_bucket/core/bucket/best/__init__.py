"""The best kit for all set-ups at once: which lamp does each work, so that every target holds and least is hired,
carried or drawn.
"""
