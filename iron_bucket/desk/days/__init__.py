"""Days as people use them: what is shown, and what is changed."""
