"""Uranograph: the bench book for degreeing camshafts."""

__version__ = "0.1.0"
