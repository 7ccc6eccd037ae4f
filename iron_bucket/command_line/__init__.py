"""The command line, one command a file. It reads and prints; all computing is the core's."""
