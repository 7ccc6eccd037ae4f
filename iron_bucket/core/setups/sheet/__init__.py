"""What the sheet of a set-up lists: pieces, stands, loads, moves from the pass before, what will not stand or hide."""
