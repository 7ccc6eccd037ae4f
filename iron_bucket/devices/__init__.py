"""The outside world and its stand-ins, one package a thing: a small protocol, a client, and a simulated stand-in that
ships with it.

Nothing here is needed for a start: what does not answer is told as not answering.
"""
