"""A shop of its own for every test, and the pages over it."""

from collections.abc import Iterator
from pathlib import Path
from shutil import copyfile

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings

from tests.hands import a_job
from uranograph.demo.shop import furnish
from uranograph.shop.database import Shop
from uranograph.web.app import create_app
from uranograph.web.routes.sheet import frozen
from uranograph.web.settings import Settings

settings.register_profile("steady", deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("steady")


@pytest.fixture(scope="session")
def empty_file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A shop without jobs, to be copied."""
    file = tmp_path_factory.mktemp("empty") / "shop.db"
    opened = Shop(file)
    opened.migrate()
    opened.close()
    return file


@pytest.fixture(scope="session")
def demo_file(empty_file: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's shop with its signed sheets, furnished once, to be copied."""
    file = tmp_path_factory.mktemp("demo") / "shop.db"
    copyfile(empty_file, file)
    opened = Shop(file)
    furnish(opened, drawn=frozen)
    opened.close()
    return file


def opened_copy(file: Path, folder: Path) -> Iterator[Shop]:
    copyfile(file, folder / "shop.db")
    opened = Shop(folder / "shop.db")
    yield opened
    opened.close()


@pytest.fixture
def shop(empty_file: Path, tmp_path: Path) -> Iterator[Shop]:
    yield from opened_copy(empty_file, tmp_path)


@pytest.fixture
def demo_shop(demo_file: Path, tmp_path: Path) -> Iterator[Shop]:
    folder = tmp_path / "demo"
    folder.mkdir()
    yield from opened_copy(demo_file, folder)


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
