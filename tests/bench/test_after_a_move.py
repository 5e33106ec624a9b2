"""What is asked for once a cam was moved."""

from tests.bench.test_glance import READ
from tests.hands import a_job, cam_moved, take, true_top
from uranograph.shop import jobs
from uranograph.shop.database import Shop
from uranograph.stations.adjust import station as adjust
from uranograph.stations.degree import station as degree


def test_where_the_wheels_zero_went_with_the_move_the_top_is_asked_for_before_anything_is_read(shop: Shop) -> None:
    """Keyways of the crank gear take the wheel off, a cam's own pins do not."""
    choices = {"a1_kind": "choices", "a1_name": "k", "a1_options": "0: 0, A4: 4", "a1_fitted": "0", "unit": "mm"}
    codes = {}
    for where in ("crank", "cam"):
        with shop.write() as session:
            own = a_job(session, title=where)
            true_top(session, own)
            jobs.save_form(session, own, "drive", {**choices, "a1_where": where}, "QZ")
            take(session, own, "degree", READ)
            job = cam_moved(session, own, 4, name="k")
        codes[where] = (adjust.find(job).code, degree.find(job).next_step)
    assert codes["crank"] == (
        "moved-wheel-too",
        "Find true TDC first: no zero of the wheel holds for what is read now.",
    )
    assert codes["cam"] == ("moved", "Read both sides of maximum lift.")
