"""Where the sun stands, and what sun and sky give."""
