"""A short way in: the stations that one came for, the others under one fold."""

import re

import pytest
from fastapi.testclient import TestClient

from tests.hands import ENGINE
from uranograph.bench.workflows import WORKFLOWS, Workflow
from uranograph.stations import ORDER

CYLINDERS_ALONE = {name: ENGINE[name] for name in ("cylinders", "rotation", "unit", "valvetrain", "lift_at")}


def begin(client: TestClient, way: str, **typed: str) -> str:
    form = {"title": f"Way {way}", "by": "QZ", "token": f"w{way}", "way": way, **CYLINDERS_ALONE, **typed}
    answer = client.post("/jobs/new", data=form, follow_redirects=False)
    assert answer.status_code == 303, answer.text
    return str(answer.headers["location"])


def in_rail(page: str, fold: bool = False) -> list[str]:
    rail = page[page.index('<nav class="rail"') : page.index("</nav>")]
    rail, _, folded = rail.partition('<details class="rail-others"')
    part = folded.partition("</details>")[0] if fold else rail
    return re.findall(r'href="/jobs/[0-9a-f]{8}/([a-z-]+)"', part)


@pytest.mark.parametrize("way", list(WORKFLOWS.values()))
def test_a_job_begins_with_what_one_came_for(client: TestClient, way: Workflow) -> None:
    onward, keys = begin(client, way.key), [station.key for station in ORDER.stations_of(way)]
    assert onward.endswith(f"/{keys[1]}")
    page = client.get(onward).text
    assert [name for name in in_rail(page) if name in ORDER.by_key] == keys
    assert set(in_rail(page, fold=True)) == set(ORDER.by_key) - set(keys)


def test_every_station_takes_part_in_a_workflow_that_there_is() -> None:
    assert all(set(station.workflows) <= set(WORKFLOWS) for station in ORDER.stations)
    # Comparing all valves is asked of nobody; whoever wants it begins it.
    assert [station.key for station in ORDER.stations if not station.workflows] == ["every-valve"]
    # A complaint is followed up by whoever came for it; marks are looked at by eye or by their gears.
    whole = {station.key for station in ORDER.stations_of(WORKFLOWS["whole"])}
    assert set(ORDER.by_key) - whole == {"wrong", "by-eye", "change-plan", "every-valve"}


def test_the_next_station_is_the_next_of_this_way_and_the_way_can_be_changed(client: TestClient) -> None:
    onward = begin(client, "degree")
    key = onward.split("/")[2]
    card = client.get(onward).text
    assert f'href="/jobs/{key}/wheel"' in card[card.index('class="panel-foot"') :]
    assert client.post(f"/jobs/{key}/sheet/way", data={"way": "gear"}, follow_redirects=False).headers["location"] == (
        f"/jobs/{key}/overview"
    )
    overview = client.get(f"/jobs/{key}/overview").text
    assert "gear-fit" in in_rail(overview)
    assert "card" in in_rail(overview, fold=True)
    assert client.post(f"/jobs/{key}/sheet/way", data={"way": "sideways"}).status_code == 422
    whole = client.post(f"/jobs/{key}/sheet/way", data={"way": "whole"}).text
    assert in_rail(whole, fold=True) == ["wrong", "change-plan", "by-eye", "every-valve"]


def test_a_station_begun_off_the_way_stands_in_the_rail(client: TestClient) -> None:
    key = begin(client, "degree").split("/")[2]
    client.post(f"/jobs/{key}/train", data={"g1_name": "crank", "g1_teeth": "20", "g2_name": "cam", "g2_teeth": "40"})
    typed = {
        "g1_name": "crank",
        "g1_teeth": "20",
        "g1_role": "crank",
        "g2_name": "cam",
        "g2_teeth": "40",
        "g2_role": "cam",
    }
    client.post(f"/jobs/{key}/train", data={**typed, "g2_on": "1", "by": "QZ"})
    assert "train" in in_rail(client.get(f"/jobs/{key}/card").text)


def test_a_way_that_is_none_is_refused_and_keeps_what_was_typed(client: TestClient) -> None:
    answer = client.post("/jobs/new", data={"title": "Odd", "by": "QZ", "way": "sideways", **CYLINDERS_ALONE})
    assert answer.status_code == 422
    assert 'value="Odd"' in answer.text


def test_a_list_of_marks_with_its_witness_point_is_kept_for_the_next_engine_of_its_kind(client: TestClient) -> None:
    first = begin(client, "marks").split("/")[2]
    marks = {"m1_on": "cam", "m1_kind": "dowel", "m1_meets": "boss", "m1_other": "head", "by": "QZ"}
    client.post(f"/jobs/{first}/sheet/by-eye", data=marks)
    client.post(f"/jobs/{first}/library/by-eye", data={**marks, "library_name": "harbor diesel, witness"})
    second = begin(client, "wrong", title="Another of them", token="w2").split("/")[2]
    page = client.get(f"/jobs/{second}/by-eye").text
    taken = re.search(r'href="\?from=(\d+)[^"]*">harbor diesel, witness', page).group(1)
    page = client.get(f"/jobs/{second}/by-eye?from={taken}").text
    assert 'name="m1_on" value="cam"' in page
    assert '<option value="boss" selected>' in page
