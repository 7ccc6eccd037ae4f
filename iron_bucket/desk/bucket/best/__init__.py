"""The search for the best kit: begun and stopped, worked on in a process of its own, shown, applied."""
