"""A shop of its own for every test, and the pages over it."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings

from tests.hands import a_job
from uranograph.shop.database import Shop
from uranograph.web.app import create_app
from uranograph.web.settings import Settings

settings.register_profile("steady", deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("steady")


@pytest.fixture
def shop(tmp_path: Path) -> Iterator[Shop]:
    opened = Shop(tmp_path / "shop.db")
    opened.migrate()
    yield opened
    opened.close()


@pytest.fixture
def client(shop: Shop) -> Iterator[TestClient]:
    with TestClient(create_app(Settings(database=shop.path)), base_url="http://127.0.0.1") as opened:
        opened.cookies.set("uranograph_by", "QZ")
        yield opened


@pytest.fixture
def key(shop: Shop) -> str:
    """A job with engine, card and a half-circle wheel at the front, and no readings yet."""
    with shop.write() as session:
        return a_job(session)
