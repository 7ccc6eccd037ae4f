"""What a job brings: entries that hang on each other, and their totals."""
