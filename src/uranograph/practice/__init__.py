"""Practice: exercises on made-up engines, carried through the same stations as any job, and what was true in the end."""
