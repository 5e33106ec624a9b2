import json
import subprocess
import sys
import time
from collections.abc import Iterator

import pytest
from click.testing import Result
from fastapi.testclient import TestClient

from tests.hands import command
from uranograph.bench.calculations import CALCULATIONS

WORKED = {
    "wheel-angle": ({"scale": "quarter", "reading_deg": 21, "side": "abdc"}, {"angle_deg": -159}),
    "piston": ({"stroke_mm": 96, "rod_mm": 168, "angle_deg": 180}, {"drop_mm": 96}),
    "tdc": ({"pairs": [{"before_deg": 41, "after_deg": 37.5}]}, {"zero_error_deg": -1.75, "corrected_deg": [39.25]}),
    "centerline": ({"pairs": [{"before_deg": -159, "after_deg": -64.25}]}, {"centerline_deg": -111.625}),
    "degree": (
        {
            "card": {"io_btdc_deg": 6, "ic_abdc_deg": 40, "eo_bbdc_deg": 52, "ec_atdc_deg": 2},
            "measured": {"io_btdc_deg": 3, "ic_abdc_deg": 43, "eo_bbdc_deg": 49, "ec_atdc_deg": 5},
        },
        {"phase_error_deg": 3, "intake_duration_error_deg": 0, "lobe_separation_error_cam_deg": 0, "verdict": "out"},
    ),
    "sweep": (
        {"lobe": "intake", "points": [[a, 9 - 0.001 * (a - 107) ** 2] for a in range(17, 198, 4)], "check_lift_mm": 2},
        {"suspects": []},
    ),
    "adjust": (
        {"error_deg": 3.1, "adjusters": [{"kind": "pin-vernier", "sprocket_holes": 15, "hub_holes": 16}]},
        {"finest_step_deg": 3},
    ),
    "overlap-lift": (
        {"measured_mm": 1.5, "target_min_mm": 1.9, "target_max_mm": 2.1, "slope_mm_per_deg": 0.125},
        {"shift_deg": 4, "verdict": "out"},
    ),
    "chain": ({"tight_span_mm": 0.5, "cam_radius_mm": 58}, {"retard_deg": 0}),
    "train": (
        {
            "gears": [{"name": "crank", "teeth": 21}, {"name": "cam", "teeth": 42}],
            "meshes": [["crank", "cam"]],
            "crank": "crank",
            "cam": "cam",
        },
        {"ratio_ok": True, "realign_crank_turns": 2, "cam_turns_opposite": True},
    ),
    "tooth-slip": ({"offset_deg": 30, "crank_teeth": 24}, {"nearest_teeth": 2, "verdict": "whole-teeth"}),
    "helical-entry": ({"teeth": 30, "normal_module_mm": 1, "helix_deg": 45, "travel_mm": 0}, {"rotation_deg": 0}),
    "backlash": (
        {
            "readings": [{"position_cam_deg": 0, "travel_mm": 0.1}],
            "indicator_radius_mm": 50,
            "pitch_radius_mm": 50,
            "pressure_angle_deg": 20,
            "spec_min_mm": 0.05,
            "spec_max_mm": 0.15,
        },
        {"mean_mm": 0.1, "swing_mm": 0, "verdict": "in"},
    ),
    "hot-backlash": (
        {
            "cold_backlash_mm": 0.08,
            "pressure_angle_deg": 20,
            "cold_c": 20,
            "hot_c": 20,
            "center_mm": 95,
            "case_alpha": 23e-6,
            "gear_a_radius_mm": 31.67,
            "gear_a_alpha": 11.5e-6,
            "gear_b_radius_mm": 63.33,
            "gear_b_alpha": 23e-6,
        },
        {"hot_backlash_mm": 0.08},
    ),
    "sprocket-line": (
        {"driver_depth_mm": 12, "driven_depth_mm": 12.5, "tolerance_mm": 0.25},
        {"out_of_line_mm": 0.5, "verdict": "out"},
    ),
    "runout": (
        {"readings": [{"position_deg": a, "value_mm": v} for a, v in ((0, 0.1), (120, -0.05), (240, -0.05))]},
        {"high_spot_deg": 0, "ovality_mm": None},
    ),
    "drive-choice": ({"total_indicated_mm": 0}, {"backlash_swing_mm": 0}),
    "end-play": (
        {"go_mm": [0.1], "no_go_mm": [0.15], "spec_min_mm": 0.08, "spec_max_mm": 0.2},
        {"verdict": "in", "low_mm": 0.1},
    ),
    "shims": ({"wanted_mm": 0.5, "stock_mm": [0.25, 0.4], "max_count": 2}, {"pack_mm": [0.25, 0.25], "gap_mm": 0}),
    "heat-fit": (
        {
            "bore_mm": 100,
            "interference_mm": 0.05,
            "slip_clearance_mm": 0.05,
            "gear_alpha": 1e-5,
            "ambient_c": 20,
            "limit_c": 110,
        },
        {"within_limit": False},
    ),
    "card": ({"intake_duration_deg": 226, "intake_centerline_deg": 107}, {"io_btdc_deg": 6, "ic_abdc_deg": 40}),
}


def run(name: str, text: str) -> Result:
    return command("calc", name, text=text)


@pytest.mark.parametrize("name", WORKED)
def test_worked_figures_by_http_and_by_command_are_the_same(client: TestClient, name: str) -> None:
    given, wanted = WORKED[name]
    answer = client.post(f"/api/calc/{name}", json=given)
    assert answer.status_code == 200
    assert wanted.items() <= answer.json().items()
    told = run(name, json.dumps(given, indent=2))
    assert told.exit_code == 0
    assert json.loads(told.stdout) == answer.json()


def test_json_lines_are_answered_line_for_line_and_a_bad_one_does_not_stop_the_rest() -> None:
    lines = [
        '{"stroke_mm": 96, "rod_mm": 168, "angle_deg": 180}',
        "nonsense",
        '{"stroke_mm": 96, "rod_mm": 10, "angle_deg": 1}',
    ]
    told = run("piston", "\n".join([*lines, lines[0]]))
    answers = [json.loads(line) for line in told.stdout.splitlines()]
    assert told.exit_code == 1
    assert answers[0] == answers[3]
    assert answers[1]["error"]["field"] == "input"
    assert answers[2]["error"]["field"] == "rod_mm"


def test_the_command_lists_what_there_is() -> None:
    told = subprocess.run(
        [sys.executable, "-m", "uranograph.cli", "calc", "--list"], capture_output=True, text=True, check=True
    )
    assert all(name in told.stdout for name in CALCULATIONS)
    assert run("none-such", "{}").exit_code == 1


@pytest.mark.parametrize(
    ("name", "body", "field"),
    [
        ("piston", '{"stroke_mm": NaN, "rod_mm": 168, "angle_deg": 1}', "stroke_mm"),
        ("piston", '{"stroke_mm": 96, "rod_mm": Infinity, "angle_deg": 1}', "rod_mm"),
        ("piston", '{"stroke_mm": 96, "rod_mm": 48, "angle_deg": 1}', "rod_mm"),
        ("piston", '{"stroke_mm": 96, "rod_mm": 168}', "angle_deg"),
        ("piston", '{"stroke_mm": 1e300, "rod_mm": 1e301, "angle_deg": 1}', "stroke_mm"),
        ("tdc", '{"pairs": []}', "pairs"),
        ("centerline", '{"pairs": []}', "pairs"),
        ("card", '{"io_btdc": 6}', "io_btdc"),
        ("card", "[1]", "input"),
        ("card", "{", "input"),
        ("wheel-angle", '{"scale": "half", "reading_deg": 200, "side": "btdc"}', "reading_deg"),
    ],
)
def test_bad_input_names_its_field(client: TestClient, name: str, body: str, field: str) -> None:
    answer = client.post(f"/api/calc/{name}", content=body)
    assert answer.status_code == 422
    assert answer.json()["error"]["field"] == field
    assert answer.json()["error"]["message"]


@pytest.mark.parametrize(
    ("path", "most", "field"), [("calc/tdc", "LARGEST_BODY", "input"), ("judge", "LARGEST_JOB", "file")]
)
def test_more_than_is_taken_is_refused_whether_its_length_is_said_or_not(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, path: str, most: str, field: str
) -> None:
    monkeypatch.setattr(f"uranograph.web.routes.calc.{most}", 100)
    for body in (b" " * 101, iter([b" " * 60, b" " * 60])):
        answer = client.post(f"/api/{path}", content=body)
        assert answer.status_code == 413
        assert answer.json()["error"]["field"] == field
    assert client.post(f"/api/{path}", content=b" " * 100).status_code == 422


def test_an_unknown_calculation_is_not_found(client: TestClient) -> None:
    assert client.post("/api/calc/none-such", json={}).status_code in (404, 405)
    assert set(client.get("/api/calc").json()) == set(CALCULATIONS)


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ('{"offset_deg": true, "crank_teeth": 24}', "offset_deg"),
        ('{"offset_deg": "30", "crank_teeth": 24}', "offset_deg"),
        ('{"offset_deg": 30, "crank_teeth": 24.5}', "crank_teeth"),
        ('{"offset_deg": 1e308, "crank_teeth": 24}', "offset_deg"),
        ('{"offset_deg": -100001, "crank_teeth": 24}', "offset_deg"),
    ],
)
def test_what_is_no_number_or_past_all_sense_is_refused_by_name(client: TestClient, body: str, field: str) -> None:
    answer = client.post("/api/calc/tooth-slip", content=body)
    assert answer.status_code == 422
    assert answer.json()["error"]["field"] == field


def test_a_count_may_be_written_as_a_spreadsheet_does(client: TestClient) -> None:
    assert (
        client.post("/api/calc/tooth-slip", json={"offset_deg": 30.0, "crank_teeth": 24.0}).json()["nearest_teeth"] == 2
    )


def test_every_number_of_every_input_has_its_bounds() -> None:
    """No calculation can be handed a number that sums, squares or fits cannot hold."""
    for name, calculation in CALCULATIONS.items():
        schema = calculation.given.model_json_schema()
        for model, part in {**schema.get("$defs", {}), name: schema}.items():
            for field, described in part.get("properties", {}).items():
                for number in _numbers(described):
                    low = {"minimum", "exclusiveMinimum"} & number.keys()
                    high = {"maximum", "exclusiveMaximum"} & number.keys()
                    assert low, (name, model, field)
                    assert high, (name, model, field)


def _numbers(schema: dict[str, object]) -> Iterator[dict[str, object]]:
    if schema.get("type") in ("number", "integer"):
        yield schema
    for part in ("anyOf", "oneOf", "prefixItems"):
        for each in schema.get(part, ()):
            yield from _numbers(each)
    if isinstance(schema.get("items"), dict):
        yield from _numbers(schema["items"])


def test_numbers_near_the_end_of_what_can_be_written_do_not_hang_the_server(client: TestClient) -> None:
    points = [[k * 1e307, (-1) ** k * 1e308] for k in range(12)]
    answer = client.post("/api/calc/sweep", json={"lobe": "intake", "points": points, "check_lift_mm": 1e308})
    assert answer.status_code == 422
    assert client.get("/api/calc").status_code == 200


def test_a_calculation_that_takes_too_long_is_given_up(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("uranograph.web.routes.calc.MAX_S", 0.05)
    monkeypatch.setattr("uranograph.web.routes.calc.calculate", lambda name, data: time.sleep(0.4))
    answer = client.post("/api/calc/tooth-slip", json={"offset_deg": 30, "crank_teeth": 24})
    assert answer.status_code == 503
    assert "given up" in answer.json()["error"]["message"]


@pytest.mark.parametrize("method", ["get", "put", "delete", "patch"])
def test_an_unlawful_method_is_told_what_is_lawful(client: TestClient, method: str) -> None:
    answer = getattr(client, method)("/api/calc/tdc")
    assert answer.status_code == 405
    assert answer.headers["allow"] == "POST"
