"""Whom a job is for: customer, numbers of engine, cam and grind, parts and dates."""

from uranograph.bench.fields import Fields, Text
from uranograph.bench.job import Job

KIND = "particulars"


class Particulars(Fields):
    """Whom a job is for; nothing of it is needed, and nothing of it is judged."""

    customer = Text("customer", "Customer", longest=80)
    engine_number = Text("engine_number", "Engine number", longest=60)
    cam_number = Text("cam_number", "Cam number", longest=60)
    cam_maker = Text("cam_maker", "Cam maker", longest=60)
    grind_number = Text("grind_number", "Grind number", longest=60)
    received = Text("received", "Received", "such as 2026-05-12", longest=30)
    wanted_by = Text("wanted_by", "Wanted by", longest=30)
    parts = Text("parts", "Parts", "as on the order", longest=400)

    @property
    def line(self) -> str:
        """All that is stated, on one line; empty where nothing is."""
        named = (
            f"{field.label.lower()} {self.values[field.name]}" for field in self.fields() if self.values[field.name]
        )
        return "; ".join(named).replace("customer ", "", 1)


FORM = Particulars.form(KIND, "whom it is for", leads_to="overview")


def particulars_of(job: Job) -> Particulars | None:
    """Whom a job is for, where it is stated."""
    return job.form(FORM)
