"""What is kept: jobs, their sheets and readings, append-only."""
