"""The routes, one module for each kind of page."""
