"""`make fuzz`: random forms, readings, acts, files and addresses at every station, then every page: no answer of 500 or more.

`python -m tests.fuzz 20000 7`: so many requests, with that seed. Each thousand begins with a shop of its own.
"""

import copy
import json
import logging
import random
import string
import sys
import tempfile
from collections import Counter
from pathlib import Path
from typing import Any
from urllib.parse import quote

from fastapi.testclient import TestClient

from tests.hands import CARD, ENGINE, WHEEL
from tests.web.test_whatever_is_sent import pages
from uranograph.bench.acts import ACTS, DETAILS
from uranograph.bench.calculations import CALCULATIONS, examples
from uranograph.bench.job import Job
from uranograph.demo.shop import furnish
from uranograph.shop import exchange
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.web.app import create_app
from uranograph.web.settings import Settings

DATA = Path(__file__).parent / "shop" / "data"
EACH_SHOP = 1000
# What a hand types, means, or slips into.
TEXTS = (
    *(
        "",
        " ",
        "0",
        "-0",
        "1",
        "-1",
        "0.5",
        ",5",
        "1,5",
        "40",
        "40 1/8",
        "1/0",
        "360",
        "359.99",
        "-180",
        "1e9",
        "1e-9",
        "999999999999",
        "nan",
        "inf",
    ),
    *(
        "0.1 mm",
        ".004 in",
        "4 thou",
        "20 C",
        "68 F",
        "yes",
        "no",
        "in",
        "out",
        "na",
        "hidden",
        "goes",
        "now",
        "5 min ago",
        "both",
        "intake",
    ),
    *(
        "1-3-4-2",
        "1-1-1-1",
        "R4: -4, 0: 0, A4: 4",
        "a, b, c",
        "Drain; 10; 1\nStrip; 30; 1; Drain",
        "Drain; 10; 1; Drain",
        "20; 40; 55-65",
    ),
    *(
        "é",
        "“”",
        "\x0b",
        "\x00",
        "a\u202eb",
        "=1+1",
        "<b>",
        "{{ 7 }}",
        "%00",
        "../..",
        "x" * 70,
        "x" * 3000,
        "١٢",
        "½",
        "−5",
        "٫5",
    ),
)
PNG = b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0\0\x01\0\0\0\x01\x08\0\0\0\0"
JOB_FILES = ("job_of_version_2.json", "job_of_version_3.json", "everything_of_version_3.json")


class Fuzz:
    """One shop, and whatever is sent to it."""

    def __init__(self, client: TestClient, shop: Shop, luck: random.Random) -> None:
        self.client, self.shop, self.luck = client, shop, luck
        self.answers: Counter[int] = Counter()
        self.broken: list[str] = []
        self.keys: list[str] = []
        self.look()

    def look(self) -> None:
        with self.shop.read() as session:
            self.keys = [job.key for job in jobs.page(session, size=60).jobs]

    def job(self, key: str) -> Job | None:
        with self.shop.read() as session:
            try:
                return jobs.load(session, key)
            except jobs.NoSuchJob:
                return None

    def send(self, method: str, address: str, **how: Any) -> None:
        try:
            status = self.client.request(method, address, follow_redirects=False, **how).status_code
        except Exception as error:
            status = 599
            self.broken.append(f"{method} {address} {str(how)[:400]}: {type(error).__name__} {error}")
        self.answers[status] += 1
        if 500 <= status < 599 and status != 503:
            self.broken.append(f"{status} {method} {address} {str(how)[:400]}")

    def text(self) -> str:
        kind = self.luck.random()
        if kind < 0.5:
            return self.luck.choice(TEXTS)
        if kind < 0.9:
            size = self.luck.choice((1, 1, 1, -1)) * self.luck.choice((0.1, 1, 10, 100, 1000)) * self.luck.random()
            return f"{size:.{self.luck.randint(0, 4)}f}"
        return "".join(self.luck.choice(string.printable) for _ in range(self.luck.randint(1, 12)))

    def once(self) -> None:
        """One request of one kind."""
        kinds = {
            self.reading: 30,
            self.form: 16,
            self.act: 8,
            self.beside: 8,
            self.live: 6,
            self.void: 4,
            self.page: 22,
            self.file: 4,
            self.judged: 4,
            self.calculation: 6,
            self.shelf: 3,
            self.address: 3,
        }
        self.luck.choices(list(kinds), list(kinds.values()))[0]()

    def reading(self) -> None:
        """What a station asks for, answered somehow; or another slot."""
        key, station = self.luck.choice(self.keys), self.luck.choice(ORDER.stations)
        job = self.job(key)
        if job is None:
            return self.look()
        query = {"method": self.luck.choice(["", "", *station.views(job), "events", "lifts", "overlap", "peak"])}
        prompt = None
        if station.prompt is not None:
            try:
                prompt = station.prompt(job, query)
            except Exception as error:
                self.broken.append(f"prompt of {station.key} {query}: {type(error).__name__} {error}")
        form = {
            "by": "FZ",
            "side": self.luck.choice(["", "btdc", "atdc", "bbdc", "abdc", "left"]),
            "token": str(self.luck.random()),
        }
        form |= {"approach": self.luck.choice(["forward", "backward"]), "method": query["method"]}
        if prompt is not None and self.luck.random() < 0.9:
            form |= {"slot": prompt.slot, "second": prompt.second or self.text(), "side": prompt.side or form["side"]}
            form["text"] = (
                self.luck.choice(prompt.options)[0] if prompt.options and self.luck.random() < 0.9 else self.text()
            )
        else:
            slot = self.luck.choice(station.slots) if station.slots else None
            kind = (self.luck.choice(slot.kinds) if slot else "x").replace("#", str(self.luck.randint(0, 13)))
            place = self.luck.choice(slot.places) if slot and slot.places else ""
            form |= {
                "slot": f"{kind}.{self.luck.randint(0, 12)}.{place}" if place else kind,
                "text": self.text(),
                "second": self.text(),
            }
        if station.has("move"):
            form["choice"] = f"{self.luck.choice(['both', 'intake', 'bank2-both', 'x'])}:{self.luck.randint(0, 8)}"
        head = {"HX-Request": "true"} if self.luck.random() < 0.6 else {}
        self.send("POST", f"/jobs/{key}/{station.key}", data=form, headers=head)
        return None

    def form(self) -> None:
        """A form of some kind, what stands there changed in a few fields."""
        key, kind = self.luck.choice(self.keys), self.luck.choice(list(ORDER.forms))
        job = self.job(key)
        if job is None:
            return self.look()
        latest, fields = job.latest(kind), list(ORDER.forms[kind].fields)
        typed = dict(latest.typed) if latest else dict({"engine": ENGINE, "card": CARD, "wheel": WHEEL}.get(kind, {}))
        for name in self.luck.sample(fields, self.luck.randint(1, min(4, len(fields)))):
            typed[name] = self.text()
        end = self.luck.choice(["", "", "", "/preview"])
        self.send(
            "POST", f"/jobs/{key}/sheet/{kind}" if not end else f"/jobs/{key}/{kind}{end}", data={**typed, "by": "FZ"}
        )
        return None

    def act(self) -> None:
        key, station = self.luck.choice(self.keys), self.luck.choice(ORDER.stations)
        form = {
            "act": self.luck.choice([*ACTS, "other", "x"]),
            "what": self.text(),
            "by": "FZ",
            "view": self.luck.choice(["", "crank", "cam", self.text()]),
        }
        form |= {
            f"act_{name}": self.luck.choice(["", "gears", "limits", "earlier", "both", "2", self.text()])
            for name in DETAILS
        }
        form["since"] = self.luck.choice(["", "5", self.text()])
        self.send("POST", f"/jobs/{key}/{station.key}/anew", data=form)

    def beside(self) -> None:
        key, station = self.luck.choice(self.keys), self.luck.choice(ORDER.stations).key
        what = self.luck.choice(["note", "accept", "skip", "photo"])
        if what == "photo":
            lines = [b'{"t": 0, "raw": "1 mm"}\n', b'{"t": 0, "raw": 1}', b"{" + self.luck.randbytes(20)]
            data = self.luck.choice([PNG, PNG + self.luck.randbytes(30), self.luck.randbytes(50), b"", *lines])
            return self.send(
                "POST",
                f"/jobs/{key}/{station}/note",
                data={"words": self.text(), "by": "FZ"},
                files={"photo": ("a.png", data)},
            )
        form = {
            "words": self.text(),
            "because": self.text(),
            "reason": self.text(),
            "by": self.luck.choice(["FZ", "", "x" * 9]),
            "about": self.luck.choice(["", "4", self.text()]),
        }
        return self.send("POST", f"/jobs/{key}/{station}/{what}", data=form)

    def live(self) -> None:
        """What instruments and two people send."""
        key, some = self.luck.choice(self.keys), self.luck.choice
        what = some(["intake", "back-exhaust", "turn", "rock", "watch", "cool", "valve-3", "valve-99", self.text()])
        line = {"n": some([0, 5, -1]), "raw": some(["1.25 mm", "angle=4 deg; dial=2 mm", self.text()])}
        sent: list[tuple[str, dict[str, Any]]] = [
            (f"/jobs/{key}/collect", {"data": {"what": what, "ambient": self.text(), "grips": self.text()}}),
            (f"/jobs/{key}/collect/keep", {}),
            (f"/jobs/{key}/collect/stop", {}),
            (f"/jobs/{key}/hold", {"data": {"station": some(["tdc", self.text()]), "slot": self.text()}}),
            (
                f"/jobs/{key}/pass",
                {"data": {"slot": self.text(), "what": some(["text", "second", "now", "x"]), "text": self.text()}},
            ),
            ("/instruments/lines", {"json": {"name": some(["B1", "../x"]), "run": "a", "lines": [line]}}),
            ("/instruments/try", {"data": {"pattern": self.text(), "sample": self.text(), "kind": "length"}}),
        ]
        path, body = some(sent)
        self.send("POST", path, **body)

    def void(self) -> None:
        key = self.luck.choice(self.keys)
        job = self.job(key)
        if job is None:
            return self.look()
        number = (
            self.luck.choice(job.entries).id
            if job.entries and self.luck.random() < 0.9
            else self.luck.randint(0, 10**6)
        )
        how = self.luck.choice(["void", "void", "undo"])
        self.send(
            "POST",
            f"/jobs/{key}/{self.luck.choice(ORDER.stations).key}/{how}/{number}",
            data={"reason": self.text(), "by": "FZ"},
        )
        return None

    def page(self) -> None:
        key = self.luck.choice(self.keys)
        address = self.luck.choice(
            [
                *pages(key),
                *(f"/jobs/{key}/{s.key}.json" for s in ORDER.stations),
                f"/jobs/{key}.csv",
                f"/jobs/{key}.xlsx",
                f"/jobs/{key}/results.csv",
                f"/jobs/{key}/asked",
                f"/jobs/{key}/rail?here=tdc",
                f"/jobs/{key}/label?revision=1",
                "/jobs.json",
                "/help.json",
            ]
        )
        names = (
            "method",
            "item",
            "edit",
            "all",
            "void",
            "note",
            "done",
            "skip",
            "lobe",
            "bank",
            "end",
            "lift",
            "intake",
            "teeth",
            "lever",
            "offset",
        )
        more = "&".join(f"{name}={quote(self.text())}" for name in self.luck.sample(names, self.luck.randint(0, 2)))
        self.send("GET", address + (("&" if "?" in address else "?") + more if more else ""))

    def _spoiled(self, data: Any, times: int) -> Any:
        """A file with something in it changed, taken away or put where it does not belong."""
        data = copy.deepcopy(data)
        for _ in range(times):
            at = data
            for _ in range(self.luck.randint(1, 4)):
                names = list(at) if isinstance(at, dict) else list(range(len(at))) if isinstance(at, list) else []
                if not names:
                    break
                name = self.luck.choice(names)
                if self.luck.random() < 0.4 or not isinstance(at[name], dict | list):
                    value: Any = self.luck.choice([None, 0, -1, 1e308, True, [], {}, self.text(), at[name]])
                    if self.luck.random() < 0.2:
                        del at[name]
                    else:
                        at[name] = value
                    break
                at = at[name]
        return data

    def _a_file(self) -> Any:
        if self.luck.random() < 0.5:
            data = json.loads((DATA / self.luck.choice(JOB_FILES)).read_text(encoding="utf-8"))
        else:
            with self.shop.read() as session:
                found = next(exchange.files(session, [self.luck.choice(self.keys)]), {})
            data = found
        if self.luck.random() < 0.7:
            data.pop("signatures", None)
        return self._spoiled(data, self.luck.randint(0, 3))

    def file(self) -> None:
        body = json.dumps(self._a_file()).encode()
        if self.luck.random() < 0.2:
            cut = self.luck.randint(0, len(body))
            body = body[:cut] + self.luck.randbytes(self.luck.randint(0, 5))
        self.send("POST", "/jobs/import", files={"file": ("job.json", body)})
        if self.luck.random() < 0.3:
            key, rows = self.luck.choice(self.keys), "\n".join(f"{self.text()},{self.text()}" for _ in range(8))
            form = {
                "lobe": self.luck.choice(["intake", "exhaust", "x"]),
                "pasted": f"angle_deg,lift_mm\n{rows}",
                "by": "FZ",
            }
            self.send("POST", f"/jobs/{key}/degree/sweep-file", data=form, files={"file": ("s.csv", rows.encode())})

    def judged(self) -> None:
        self.send("POST", "/api/judge", content=json.dumps(self._a_file()))

    def calculation(self) -> None:
        name = self.luck.choice(list(CALCULATIONS))
        self.send(
            "POST", f"/api/calc/{name}", content=json.dumps(self._spoiled(examples()[name], self.luck.randint(0, 3)))
        )

    def shelf(self) -> None:
        key = self.luck.choice(self.keys)
        what = self.luck.choice(
            ["rename", "copy", "put/bench", "put/archived", "sign", "house", "new", "library/card", "library/drive"]
        )
        form = {
            "title": self.text(),
            "copy_title": self.text(),
            "by": "FZ",
            "name": self.text(),
            "changed": self.text(),
            "seen": self.luck.choice(["1", self.text()]),
            "token": str(self.luck.random()),
        }
        if what in ("house", "new"):
            return self.send(
                "POST",
                "/house" if what == "house" else "/jobs/new",
                data={**form, self.luck.choice(["unit", "one_in", "eye", "lobe_least"]): self.text()},
            )
        return self.send("POST", f"/jobs/{key}/{what}", data=form)

    def address(self) -> None:
        parts = [
            "jobs",
            self.luck.choice([*self.keys, "x"]),
            self.luck.choice([*ORDER.by_key, "signed", "photos", "x"]),
            self.luck.choice(["1", "999999", quote(self.text(), safe=""), "page"]),
        ]
        self.send(self.luck.choice(["GET", "HEAD", "POST", "PUT"]), "/" + "/".join(parts[: self.luck.randint(1, 4)]))


def run(folder: Path, requests: int, seed: int) -> tuple[Counter[int], list[str]]:
    """Send so many requests to one shop, look at every page of its jobs, and say how they were answered and what broke."""
    shop = Shop(folder / f"fuzz-{seed}.db")
    shop.migrate()
    furnish(shop)
    with TestClient(
        create_app(Settings(database=shop.path)), base_url="http://127.0.0.1", raise_server_exceptions=False
    ) as client:
        fuzz = Fuzz(client, shop, random.Random(seed))
        for n in range(requests):
            if n % 200 == 0:
                fuzz.look()
            fuzz.once()
        fuzz.look()
        for key in fuzz.keys:
            for address in pages(key):
                fuzz.send("GET", address)
    shop.close()
    return fuzz.answers, fuzz.broken


class Faults(logging.Handler):
    """What the log was told of faults of our own: such a station says so in its place, and is no answer of 500."""

    def __init__(self) -> None:
        super().__init__()
        self.found: dict[str, str] = {}

    def emit(self, record: logging.LogRecord) -> None:
        if record.exc_info and record.exc_info[1] is not None:
            trace = record.exc_info[2]
            while trace is not None and trace.tb_next is not None:
                trace = trace.tb_next
            place = f"{Path(trace.tb_frame.f_code.co_filename).name}:{trace.tb_lineno}" if trace else ""
            self.found.setdefault(
                f"{type(record.exc_info[1]).__name__} {place}", f"{record.getMessage()}: {record.exc_info[1]}"
            )


def main() -> int:
    requests = int(sys.argv[1]) if len(sys.argv) > 1 else 20_000
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else 1
    faults = Faults()
    logging.getLogger("uranograph").addHandler(faults)
    logging.getLogger("uranograph").propagate = False
    answers: Counter[int] = Counter()
    broken: list[str] = []
    with tempfile.TemporaryDirectory() as made:
        for first in range(0, requests, EACH_SHOP):
            own, gone = run(Path(made), min(EACH_SHOP, requests - first), seed + first)
            answers, broken = answers + own, broken + gone
            print(
                f"{first + EACH_SHOP} requests: {dict(sorted(answers.items()))}, {len(broken)} broken, {len(faults.found)} faults",
                flush=True,
            )
    for each in (*dict.fromkeys(broken), *(f"fault {kind}: {said}" for kind, said in faults.found.items())):
        print(each[:600])
    # A station that cannot be judged says so in its place: that is told here, and no answer of 500.
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
