"""How many sheets of paper somebody may ask for in a minute, and how many come to one address by a link."""

from datetime import timedelta

MINUTE, PAPERS_A_MINUTE, PAPERS_A_MINUTE_BY_LINK = timedelta(minutes=1), 30, 6
