"""Whatever is written at a station, lawful or not: every page still stands, and no two of them say different things."""

import random
import re

import pytest
from fastapi.testclient import TestClient

from tests.shop.test_asides_and_house import PIXEL
from tests.stations.test_whatever_is_written import FORMS_BEFORE, SLOTS, TEXTS
from tests.web.test_whatever_is_sent import HX, described, every_page_stands
from uranograph.bench.finding import Verdict
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

__all__ = ("described",)
READINGS = [text for text in TEXTS.elements if text != "?"] + [
    "²",
    "٣",
    "1e308",
    "0." + "0" * 50 + "1",
    "-1",
    "<b>",
    "\x00",
]
SIDES = ("", "btdc", "atdc", "bbdc", "abdc", "nowhere")


def waiting(page: str) -> str:
    found = re.search(r'name="slot" value="([^"]+)"', page)
    return found.group(1) if found else "stop.1.before"


@pytest.mark.parametrize("station", [station.key for station in ORDER.stations])
def test_every_kind_of_write_at_a_station_leaves_every_page_standing(
    client: TestClient, shop: Shop, described: str, station: str
) -> None:
    at = f"/jobs/{described}/{station}"
    writes = {
        "picture": lambda: client.post(f"{at}/note", data={"words": "x"}, files={"photo": ("a.png", PIXEL)}),
        "change": lambda: client.post(f"{at}/anew", data={"what": "taken apart"}),
        "act": lambda: client.post(f"{at}/anew", data={"act": ORDER.by_key[station].acts[0], "what": ""}),
        "odd act": lambda: client.post(f"{at}/anew", data={"act": "painted", "what": "red"}),
        "skip": lambda: client.post(f"{at}/skip", data={"reason": "not today"}),
        "reading": lambda: client.post(at, data={"slot": waiting(client.get(at).text), "text": "0.4", "second": "1"}),
        "odd reading": lambda: client.post(at, data={"slot": "skip.1.in_sentence", "text": "x"}),
        "sheet": lambda: client.post(f"/jobs/{described}/sheet/{station}", data={"unit": "mm"}),
        "position": lambda: client.post(f"/jobs/{described}/adjust", data={"choice": "both:0"}),
        "moved": lambda: client.post(f"/jobs/{described}/tdc/anew", data={"act": "wheel-moved"}),
        "left": lambda: client.post(f"/jobs/{described}/tdc", data={"slot": "left", "text": ""}),
        "no such void": lambda: client.post(f"{at}/void/9223372036854775807", data={"reason": "gone"}),
        "import": lambda: client.post(
            "/jobs/import", files={"file": ("j.json", client.get(f"/jobs/{described}.json").content)}
        ),
    }
    # The overview has what every station finds; all pages follow once all of this is written, and once it is voided.
    near = (f"/jobs/{described}/overview", at)
    for name, write in writes.items():
        assert write().status_code < 500, name
        every_page_stands(client, described, (station, name), near)
    every_page_stands(client, described, (station, "all of it"))
    with shop.read() as session:
        written = [reading.id for reading in jobs.load(session, described).readings if reading.station == station]
    for reading in written:
        assert client.post(f"{at}/void/{reading}", data={"reason": "again"}).status_code < 500
    every_page_stands(client, described, (station, "void"))


def consistent(shop: Shop, key: str) -> None:
    """No *in* beside a *cannot tell* of the same figure."""
    with shop.read() as session:
        found = ORDER.overview(jobs.load(session, key))
    assert not any(finding.fault for finding in found.values())
    if found["adjust"].verdict is Verdict.IN:
        assert found["degree"].verdict is Verdict.IN
    if found["setting"].title.endswith("set and proved"):
        assert found["end-play"].verdict is not Verdict.UNSURE
    if found["choice"].verdict is Verdict.IN:
        assert found["runout"].verdict is not Verdict.UNSURE


@pytest.mark.parametrize("seed", [1, 2])
def test_a_random_walk_of_lawful_and_unlawful_writes_breaks_no_page_and_no_agreement(
    client: TestClient, shop: Shop, described: str, seed: int
) -> None:
    pick = random.Random(seed)
    key = described
    texts = READINGS
    for step in range(500):
        station = pick.choice(ORDER.stations)
        at = f"/jobs/{key}/{station.key}"
        act = pick.choices(
            ("waiting", "slot", "sheet", "skip", "anew", "void", "choose", "moved", "note", "accept"),
            (40, 22, 12, 3, 4, 12, 4, 3, 2, 3),
        )[0]
        text, drop, side = pick.choice(texts), pick.choice((*texts, "45", "90", "1.2")), pick.choice(SIDES)
        form = {"text": text, "second": drop, "side": side, "token": f"walk {seed} {step}"}
        if act == "waiting":
            page = client.get(at).text
            offered = re.findall(r'name="text" value="([^"]+)"', page)
            form |= {"slot": waiting(page), "text": pick.choice(offered) if offered else text}
            answer = client.post(at, data=form, headers=HX)
        elif act == "slot" and station.key in SLOTS:
            form["slot"] = pick.choice(SLOTS[station.key]).format(n=pick.choice((1, 2, 3, "x", "1" * 30)))
            answer = client.post(at, data=form, headers=HX)
        elif act == "sheet":
            kind = pick.choice(sorted(ORDER.forms))
            field = pick.choice(ORDER.forms[kind].fields)
            typed = {**FORMS_BEFORE.get(kind, {}), "unit": "mm", field: pick.choice(texts)}
            path = kind if kind in ORDER.by_key and ORDER.by_key[kind].form else f"sheet/{kind}"
            if kind == "engine":
                continue
            answer = client.post(f"/jobs/{key}/{path}", data=typed, headers=HX)
        elif act == "skip":
            answer = client.post(
                f"{at}/skip", data={"reason": pick.choice(("", "no time")), "rest": pick.choice(("", "1"))}
            )
        elif act == "anew":
            done = pick.choice((*station.acts, "other", "painted"))
            answer = client.post(f"{at}/anew", data={"act": done, "what": pick.choice(("", "shim out"))})
        elif act == "void":
            with shop.read() as session:
                there = [reading.id for reading in jobs.load(session, key).readings] or [1]
            answer = client.post(f"{at}/void/{pick.choice(there)}", data={"reason": "walk"})
        elif act == "choose":
            answer = client.post(
                f"/jobs/{key}/adjust", data={"choice": pick.choice(("both:0", "both:²", "x:1", "both:99"))}
            )
        elif act == "note":
            answer = client.post(f"{at}/note", data={"words": text, "about": pick.choice(("", "5", "x"))})
        elif act == "accept":
            answer = client.post(f"{at}/accept", data={"because": pick.choice(("", "as it is"))})
        else:
            answer = client.post(f"/jobs/{key}/tdc", data={"slot": "left", "text": ""})
        assert answer.status_code < 500, (step, act, station.key, form)
        if step % 10 == 0:
            consistent(shop, key)
        if step % 100 == 99:
            every_page_stands(client, key, step)
    again = client.post("/jobs/import", files={"file": ("j.json", client.get(f"/jobs/{key}.json").content)})
    assert again.status_code == 200
