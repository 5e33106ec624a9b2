"""Walks use the same windows and servers as the tests of the pages."""

from tests.browser.conftest import browser, demo, demo_keys, desk, page, phone, server

__all__ = ("browser", "demo", "demo_keys", "desk", "page", "phone", "server")
