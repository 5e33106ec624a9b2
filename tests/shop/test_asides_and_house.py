"""Passing over, pictures, and the limits of the house, as they are kept."""

from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import func, select

from tests.hands import take
from tests.web.test_mark_pages import PIXEL
from uranograph.bench.log import Picture
from uranograph.bench.shop_limits import LIMITS
from uranograph.core.errors import InvalidInput
from uranograph.shop import asides, exchange, jobs, letterhead, library, loading
from uranograph.shop.database import Shop
from uranograph.shop.tables import LimitRow, PictureRow
from uranograph.stations import ORDER

JPEG = bytes.fromhex("ffd8ffe000104a46494600010100000100010000ffc0000b080010002001011100ffd9")


def test_a_reason_is_kept_with_who_and_when_until_the_station_is_worked_at(shop: Shop, key: str) -> None:
    at = datetime(2026, 3, 4, 5, 6, tzinfo=UTC)
    with shop.write() as session:
        asides.skip(session, key, ["runout", "choice"], "  new crank  ", "rk", at)
        job = loading.load(session, key)
        said = job.skipped("runout")
        assert (said.reason, said.by, said.at) == ("new crank", "RK", at)
        assert ORDER.overview(job)["choice"].state == "skipped"
        # Skipped twice is passed over once.
        asides.skip(session, key, ["runout"], "again", "RK")
        assert loading.load(session, key).skipped("runout").reason == "new crank"
        job = take(session, key, "runout", [("set-1.1.dial", "0.01", None)], "0")
        assert job.skipped("runout") is None
        asides.skip(session, key, ["runout"], "after all", "RK")
        assert loading.load(session, key).skipped("runout").reason == "after all"


@pytest.mark.parametrize(
    ("station", "reason", "by", "says"),
    [
        ("engine", "why not", "RK", "never-skipped"),
        ("nothing", "why not", "RK", "never-skipped"),
        ("runout", "", "RK", "reason-missing"),
        ("runout", "x" * 301, "RK", "reason-too-long"),
        ("runout", "why not", "", "initials"),
    ],
)
def test_a_station_is_not_passed_over_without_reason_or_hand(
    shop: Shop, key: str, station: str, reason: str, by: str, says: str
) -> None:
    with shop.write() as session, pytest.raises(InvalidInput, match=says):
        asides.skip(session, key, [station], reason, by)
    with shop.read() as session:
        assert loading.load(session, key).skipped("runout") is None


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"GIF89a",
        asides.PNG,
        asides.PNG + b"\0\0\0\rIHDR" + bytes(8),
        asides.JPEG + b"\xe0",
        b"<svg onload='x'/>",
        b"{}",
        b'{"t": 1, "raw": 5}\n',
        b'{"t": "x", "raw": "1.0 mm"}\n',
        b'{"t": 0.0, "raw": "1.0 mm"}\n<script>x</script>\n',
        b'{"t": 0.0, "raw": "\xff"}\n',
        JPEG[:20],
        JPEG.replace(b"\x00\x10\x00\x20", bytes(4)),
    ],
)
def test_what_is_no_picture_by_its_contents_is_refused(shop: Shop, key: str, data: bytes) -> None:
    with shop.write() as session, pytest.raises(InvalidInput):
        asides.attach(session, key, "marks", "mark", data, "RK")
    with shop.read() as session:
        assert session.scalar(select(func.count()).select_from(PictureRow)) == 0


def test_png_and_jpeg_are_told_apart_and_come_back_byte_for_byte(shop: Shop, key: str) -> None:
    with shop.write() as session:
        for token, data in (("a", PIXEL), ("b", JPEG), ("a", PIXEL)):
            asides.attach(session, key, "marks", "", data, "RK", token)
    with shop.read() as session:
        kept = loading.load(session, key).annotations("marks", Picture)
        found = [asides.photo(session, key, reading.id) for reading in kept]
        text = exchange.export_job(session, key).model_dump_json()
    assert found == [("image/png", PIXEL), ("image/jpeg", JPEG)]
    assert [reading.text for reading in kept] == ["picture", "picture"]
    with shop.write() as session:
        again = exchange.import_job(session, exchange.read_job(text))
    with shop.read() as session:
        copies = [
            asides.photo(session, again, r.id) for r in loading.load(session, again).annotations("marks", Picture)
        ]
    assert copies == found


def test_a_capture_is_kept_beside_the_pictures_and_goes_with_the_job(shop: Shop, key: str) -> None:
    lines = b'{"t": 0.0, "raw": "+1.2 mm"}\n{"t": 0.25, "raw": "+1.3 mm"}\n'
    with shop.write() as session:
        asides.attach(session, key, "degree", "", lines, "RK")
        text = exchange.export_job(session, key).model_dump_json()
        again = exchange.import_job(session, exchange.read_job(text))
    with shop.read() as session:
        (kept,) = loading.load(session, again).annotations("degree", Picture)
        assert (kept.is_capture, kept.text) == (True, "capture")
        assert asides.photo(session, again, kept.id) == (asides.CAPTURE, lines)
    with shop.write() as session, pytest.raises(InvalidInput):
        # A capture is no mark for a letterhead.
        letterhead.set_letterhead(session, "Shop", "", "RK", lines)
    with shop.write() as session:
        for n in range(1, asides.MAX_CAPTURES):
            asides.attach(session, key, "degree", f"{n}", lines, "RK")
        assert not asides.has_room_for_capture(loading.load(session, key))
        with pytest.raises(InvalidInput, match="too-many-captures"):
            asides.attach(session, key, "degree", "one more", lines, "RK")
        asides.attach(session, key, "degree", "a picture still", PIXEL, "RK")


def test_a_job_keeps_so_many_pictures_and_of_another_job_none_is_shown(shop: Shop, key: str) -> None:
    with shop.write() as session:
        for n in range(asides.MAX_PHOTOS):
            asides.attach(session, key, "marks", f"{n}", PIXEL, "RK", f"t{n}")
        with pytest.raises(InvalidInput, match="too-many-pictures"):
            asides.attach(session, key, "marks", "one more", PIXEL, "RK", "more")
        with pytest.raises(InvalidInput, match=r"done-too-long|too-many-letters-to-keep"):
            asides.attach(session, key, "marks", "x" * 65, PIXEL, "RK", "long")
        number = loading.load(session, key).annotations("marks", Picture)[0].id
        other = jobs.begin(session, "Other", "RK", "other")
        with pytest.raises(loading.NoSuchJob):
            asides.photo(session, other, number)


def test_a_limit_that_is_set_again_to_the_same_is_no_new_line_and_the_past_stays(shop: Shop) -> None:
    at = datetime(2026, 1, 1, tzinfo=UTC)
    with shop.write() as session:
        for day, text in enumerate(("0.06", "0.06", "", "0.07")):
            library.set_limits(session, {"gears_good": text}, "rk", at + timedelta(days=day))
        past = library.default_history(session)
        assert [(change.value.text, change.value.by) for change in past] == [("0.07", "RK"), ("", "RK"), ("0.06", "RK")]
        assert past[0].value.at == at + timedelta(days=3)
        assert library.shop_values(session).keys() == {"gears_good"}
        library.set_limits(session, {"no_such_limit": "1"}, "rk")
        assert session.scalar(select(func.count()).select_from(LimitRow)) == 3
        with pytest.raises(InvalidInput, match="initials"):
            library.set_limits(session, {"gears_good": "0.01"}, "")


def test_every_open_job_works_by_the_limits_of_the_moment(shop: Shop, key: str) -> None:
    with shop.read() as session:
        before = loading.load(session, key)
        assert before is loading.load(session, key)
    with shop.write() as session:
        library.set_limits(session, {name: "0.3" for name in LIMITS if name.startswith("lobe")}, "RK")
    with shop.read() as session:
        after = loading.load(session, key)
        assert after is not before
        assert {name: value.text for name, value in after.shop_values.items()} == {
            "lobe_least": "0.3",
            "lobe_liked": "0.3",
        }
        assert after.readings == before.readings
