"""Whatever is sent to the calculations is answered as their description says."""

import json
import re
from collections.abc import Iterator

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from schemathesis.python.asgi import ASGIClient, get_client

from uranograph.web.app import create_app
from uranograph.web.settings import Settings


def test_the_description_is_a_lawful_one_whose_every_reference_resolves(client: TestClient) -> None:
    described = client.get("/openapi.json").json()
    schemathesis.openapi.from_dict(described).validate()
    text = json.dumps(described)
    for reference in re.findall(r'"\$ref": "#/([^"]+)"', text):
        found = described
        for part in reference.split("/"):
            found = found[part]
    assert "$defs" not in text


@pytest.fixture(scope="module")
def line(tmp_path_factory: pytest.TempPathFactory) -> Iterator[ASGIClient]:
    """Requests that go straight into the application, which stays started."""
    app = create_app(Settings(database=tmp_path_factory.mktemp("api") / "shop.db"))
    with get_client(app) as opened:
        yield opened


described = schemathesis.openapi.from_dict(create_app(Settings()).openapi())
# A body that fits the schema may still be impossible (a rod shorter than the throw): no schema can say so. It must then be
# refused in our own words; that is asserted instead.
BY_SCHEMA_ALONE = [schemathesis.checks.positive_data_acceptance]


@described.parametrize()
@settings(max_examples=15, suppress_health_check=list(HealthCheck), deadline=None)
def test_whatever_is_sent_is_answered_as_described(case: schemathesis.Case, line: ASGIClient) -> None:
    answer = case.call_and_validate(base_url="http://127.0.0.1", session=line, excluded_checks=BY_SCHEMA_ALONE)
    if answer.status_code == 422 and case.meta and case.meta.generation.mode.is_positive:
        told = answer.json()["error"]
        assert not told["message"].startswith(f"{told['field']}: "), told
