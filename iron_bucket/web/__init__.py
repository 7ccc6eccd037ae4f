"""Pages and fragments: one package a station. No craft arithmetic, no query, no commit."""
