"""Light that moves: flame, television, a passing car, storm, neon, a failing tube."""
