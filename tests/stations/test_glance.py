"""Card beside measured under the figure says what the finding and the figure say."""

from tests.hands import take, true_top
from tests.phase.test_degree import EXHAUST, INTAKE
from uranograph.bench.finding import Row
from uranograph.phase import finding
from uranograph.phase.drawing import job_lobes
from uranograph.shop.database import Shop
from uranograph.stations.degree.glance import glance

# The card: IO 12, IC 52, EO 54, EC 14; the cam 2 late, the intake 1 longer at its closing.
READ = [("io.1.forward", "10", "btdc"), ("ic.1.forward", "125", "btdc")]


def cells(columns: tuple[Row, ...]) -> dict[str, tuple[str, str, str]]:
    return {column.label: (column.card, column.measured, column.difference) for column in columns}


def test_events_that_were_read_stand_as_read_and_the_others_as_what_follows(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        job = take(session, key, "degree", READ)
    found = glance(job)
    assert [column.label for column in found.columns] == [
        "IO",
        "IC",
        "EO",
        "EC",
        "ICL",
        "ECL",
        "LSA",
        "Int dur",
        "Exh dur",
    ]
    seen = cells(found.columns)
    assert seen["IO"] == ("12.0", "10.0", "−2.0")
    assert seen["IC"] == ("52.0", "55.0", "+3.0")
    # The middle of the intake's events is 2.5 late: the exhaust is where that puts it.
    assert seen["EO"] == ("54.0", "51.5", "")
    assert seen["ICL"] == ("110.0", "112.5", "+2.5")
    assert seen["ECL"] == ("110.0", "", "")
    assert seen["LSA"] == ("110.0", "", "")
    assert [column.label for column in found.columns if column.inferred] == ["EO", "EC"]
    # The figure says the same, and which of its events were read.
    intake, exhaust = job_lobes(job)
    assert [(name, round(value, 1)) for name, value, _ in intake.event_labels] == [("IO", 10.0), ("IC", 55.0)]
    assert (intake.events_seen, exhaust.events_seen) == (True, False)


def test_by_equal_lifts_the_separation_is_there_and_every_event_follows(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        job = take(session, key, "degree", [*INTAKE, *EXHAUST], second="1.0")
    found = glance(job)
    seen = cells(found.columns)
    assert seen["ECL"] == ("110.0", "108.0", "−2.0")
    assert seen["LSA"] == ("110.0", "110.0", "0.0")
    assert [column.label for column in found.columns if column.inferred] == ["IO", "IC", "EO", "EC"]
    rows = {row.label for row in finding.find(job).rows if not row.inferred}
    assert found.stands_for >= rows


def test_before_anything_is_read_the_card_stands_there_alone(shop: Shop, key: str) -> None:
    with shop.write() as session:
        job = true_top(session, key)
    assert {column.measured for column in glance(job).columns} == {""}
    assert cells(glance(job).columns)["EC"][0] == "14.0"
