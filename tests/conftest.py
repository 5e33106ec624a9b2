"""A shop of its own for every test, and the pages over it."""

import os
import time
from collections.abc import Callable, Iterator
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


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What takes longest begins first, so that no process ends with it alone: the browser, and of it whole jobs."""

    def rank(item: pytest.Item) -> int:
        path = item.path.as_posix()
        if path.endswith(
            ("test_late_answers.py", "test_stories.py", "test_slow_answers.py", "test_prove_and_close.py")
        ):
            return 0
        return 1 if "/browser/" in path else 2 if path.endswith("test_installed.py") else 3

    items.sort(key=rank)


def made_once(folder: Path, name: str, make: Callable[[Shop], object]) -> Path:
    """A shop's file that is made once for all who test at the same time: the first makes it, the others wait."""
    file, own = folder / name, folder / f"{name}.{os.getpid()}"
    try:
        os.close(os.open(folder / f"{name}.begun", os.O_CREAT | os.O_EXCL))
    except FileExistsError:
        for _ in range(1200):
            if file.exists():
                return file
            time.sleep(0.1)
        raise
    opened = Shop(own)
    make(opened)
    opened.close()
    own.rename(file)
    return file


@pytest.fixture(scope="session")
def shared_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """What all processes of one run share."""
    own = tmp_path_factory.getbasetemp()
    return own.parent if os.environ.get("PYTEST_XDIST_WORKER") else own


@pytest.fixture(scope="session")
def empty_file(shared_folder: Path) -> Path:
    """A shop without jobs, to be copied."""
    return made_once(shared_folder, "empty.db", lambda shop: shop.migrate())


@pytest.fixture(scope="session")
def demo_file(empty_file: Path, shared_folder: Path) -> Path:
    """The demo's shop with its signed sheets, furnished once, to be copied."""

    def furnished(shop: Shop) -> None:
        copyfile(empty_file, shop.path)
        furnish(shop, drawn=frozen)

    return made_once(shared_folder, "demo.db", furnished)


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
