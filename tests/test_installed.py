"""The package as it is installed elsewhere, settings from each place, and starts that fail say why in one sentence."""

import json
import os
import re
import socket
import sqlite3
import subprocess
import sys
import zipfile
from contextlib import closing
from pathlib import Path
from urllib.request import urlopen

import pytest

from tests.hands import command
from uranograph.shop.database import Shop

ROOT = Path(__file__).parents[1]


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The package built into a wheel and laid out as an installer would."""
    folder = tmp_path_factory.mktemp("installed")
    build = [sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "--no-build-isolation", "--no-cache-dir"]
    source = folder / "source"
    source.mkdir()
    for name in ("pyproject.toml", "README.md", "LICENSE"):
        (source / name).write_bytes((ROOT / name).read_bytes())
    subprocess.run(["cp", "-r", str(ROOT / "src"), str(source / "src")], check=True)
    subprocess.run([*build, "--wheel-dir", str(folder), str(source)], check=True, capture_output=True)
    with zipfile.ZipFile(next(folder.glob("*.whl"))) as wheel:
        wheel.extractall(folder / "site")
    return folder / "site"


def test_an_installed_shop_runs_with_its_data_in_a_named_folder(installed: Path, tmp_path: Path) -> None:
    environment = {
        **os.environ,
        "PYTHONPATH": str(installed),
        "URANOGRAPH_DATABASE": str(tmp_path / "data" / "shop.db"),
    }
    process = subprocess.Popen(
        [sys.executable, "-m", "uranograph.cli", "serve", "--port", "0"],
        cwd=tmp_path,
        env=environment,
        stdout=subprocess.PIPE,
        text=True,
    )
    try:
        assert process.stdout is not None
        address = re.search(r"http://\S+", process.stdout.readline())
        assert address is not None
        for path, words in {
            "/": "No jobs yet",
            "/help": "How it is done",
            "/static/page.js": "dfn",
            "/api": "tdc",
        }.items():
            with urlopen(f"{address[0]}{path}") as answer:
                assert words in answer.read().decode()
    finally:
        process.terminate()
        process.wait(20)
    where = subprocess.run(
        [sys.executable, "-c", "import uranograph; print(uranograph.__file__)"],
        cwd=tmp_path,
        env=environment,
        capture_output=True,
        text=True,
        check=True,
    )
    assert where.stdout.startswith(str(installed))
    assert (tmp_path / "data" / "shop.db").is_file()


def test_the_container_copies_and_sets_what_there_is() -> None:
    steps = (ROOT / "Containerfile").read_text(encoding="utf-8")
    for copied in re.findall(r"(?m)^COPY (.+) \S+$", steps):
        for name in copied.split():
            assert (ROOT / name).exists(), name
    known = {
        f"URANOGRAPH_{name}"
        for name in ("DATABASE", "HOST", "PORT", "NAMES", "LOG_LEVEL", "CONFIG", "TRUST_NETWORK", "PREFIX")
    }
    unit = (ROOT / "docs" / "uranograph.service").read_text(encoding="utf-8")
    for text in (steps, unit):
        assert set(re.findall(r"URANOGRAPH_[A-Z_]+", text)) <= known
        assert "serve" in text


@pytest.fixture
def here(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.chdir(tmp_path)
    for name in [name for name in os.environ if name.upper().startswith("URANOGRAPH_")]:
        monkeypatch.delenv(name)
    return tmp_path


def shown() -> dict[str, tuple[object, str]]:
    told = json.loads(command("config", "--json").stdout)
    return {name: (each["value"], each["from"]) for name, each in told.items()}


def test_options_come_before_variables_and_these_before_the_file(here: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    assert shown()["port"] == (8765, "default")
    (here / "uranograph.toml").write_text('port = 1001\nhost = "::1"\nlog_level = "info"\n')
    assert shown()["port"] == (1001, "uranograph.toml")
    assert shown()["log_level"] == ("info", "uranograph.toml")
    monkeypatch.setenv("URANOGRAPH_PORT", "1002")
    assert shown()["port"] == (1002, "URANOGRAPH_PORT")
    told = json.loads(command("config", "--json", "--port", "1003").stdout)
    assert told["port"] == {"value": 1003, "from": "option"}
    assert told["host"] == {"value": "::1", "from": "uranograph.toml"}
    other = here / "other.toml"
    other.write_text('names = "bench.lan"\n')
    monkeypatch.setenv("URANOGRAPH_CONFIG", str(other))
    assert shown()["names"] == ("bench.lan", str(other))
    assert shown()["host"] == ("127.0.0.1", "default")
    lines = command("config").stdout.splitlines()
    assert [line.split()[0] for line in lines] == [
        "database",
        "host",
        "port",
        "names",
        "prefix",
        "trust_network",
        "log_level",
    ]


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("port = ", "not TOML"),
        (
            "prot = 1",
            "set “prot”, which there is not. There are: database, host, port, names, prefix, trust_network, log_level.",
        ),
        ("port = 70000", "port: "),
        ('log_level = "loud"', "log_level: "),
    ],
)
def test_a_file_of_settings_at_fault_is_one_sentence(here: Path, text: str, says: str) -> None:
    (here / "uranograph.toml").write_text(text)
    for name in ("config", "serve", "check"):
        told = command(name)
        assert told.exit_code == 1
        assert says in told.stderr
        assert len(told.stderr.strip().splitlines()) == 1


def test_a_file_of_settings_that_is_named_and_not_there(here: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("URANOGRAPH_CONFIG", "nowhere.toml")
    told = command("config")
    assert told.exit_code == 1
    assert told.stderr.strip() == "The settings nowhere.toml cannot be read: No such file or directory."


def test_every_start_that_fails_says_why_in_one_sentence(here: Path) -> None:
    other = here / "other.db"
    with sqlite3.connect(other) as connection:
        connection.execute("CREATE TABLE mine (x)")
    connection.close()
    (here / "text.db").write_text("not a file of ours" * 100)
    for name in ("empty.db", "locked.db"):
        shop = Shop(here / name)
        shop.migrate()
        shop.close()
    with closing(sqlite3.connect(here / "empty.db")) as emptied:
        emptied.execute("DELETE FROM alembic_version")
        emptied.commit()
    with closing(sqlite3.connect(here / "locked.db")) as locked, socket.socket() as taken:
        locked.execute("PRAGMA journal_mode=DELETE")
        locked.execute("BEGIN EXCLUSIVE")
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        for options, says in {
            ("--database", "other.db"): "another program's file",
            ("--database", "text.db"): "cannot be opened as a shop's file",
            ("--database", "text.db/x.db"): "cannot be made",
            ("--database", "."): "cannot be opened",
            ("--port", str(taken.getsockname()[1])): "cannot be used",
            ("--host", "no such host", "--trust-network"): "cannot be used",
            ("--host", "0.0.0.0"): "sign under any name",
            ("--host", "192.0.2.1"): "--trust-network",
            ("--database", "empty.db"): "does not say which revision",
            ("--database", "locked.db"): "is locked by another program",
            ("--port", "-1"): "port: ",
        }.items():
            told = command("serve", *options)
            assert told.exit_code == 1, options
            assert says in told.stderr, options
            assert len(told.stderr.strip().splitlines()) == 1, told.stderr


def test_help_for_a_command_and_for_none(here: Path) -> None:
    assert "Copy a shop whole" in command("help", "backup").stdout
    every = command("help").stdout
    for name in ("serve", "backup", "restore", "check", "judge", "config", "help", "calc"):
        assert name in every
    unknown = command("help", "nothing")
    assert unknown.exit_code == 1
    assert "There is no command “nothing”. There are: backup" in unknown.stderr


def test_every_command_stands_in_the_docs() -> None:
    told = (ROOT / "docs" / "commands.md").read_text(encoding="utf-8")
    listed = command("help", "nothing").stderr.split("There are: ")[1].strip(".\n").split(", ")
    for name in listed:
        assert f"`{name}" in told, name
    for code in ("| 0 |", "| 1 |", "| 2 |"):
        assert code in told
    assert command("backup").exit_code == 2
