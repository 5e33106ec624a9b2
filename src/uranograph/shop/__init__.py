"""Storage of jobs, forms and readings, append-only."""
