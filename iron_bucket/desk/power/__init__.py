"""The power of a job: what hangs where, how long it lasts, and the changes to both."""
