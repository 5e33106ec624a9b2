"""A made-up shop, written through the same functions a user's data goes through."""
