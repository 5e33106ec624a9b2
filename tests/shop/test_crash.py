"""A cut of power leaves what was told as recorded; the long runs are `make crash` and `make fuzz`."""

import random
from pathlib import Path

import pytest

from tests import crash, fuzz


def test_a_cut_of_power_loses_nothing_that_was_told_as_recorded(tmp_path: Path) -> None:
    found = list(crash.cuts(tmp_path, 6, random.Random(3)))
    assert len(found) == 6
    assert all(lost == 0 for _, lost in found)
    assert any(written for written, _ in found)


def test_an_entry_that_is_lost_would_be_told(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    whole = crash.notes
    monkeypatch.setattr(crash, "notes", lambda path: set(sorted(whole(path))[1:]))
    assert any(lost for _, lost in crash.cuts(tmp_path, 6, random.Random(3)))


def test_whatever_is_sent_is_answered(tmp_path: Path) -> None:
    answers, broken = fuzz.run(tmp_path, 60, 11)
    assert broken == []
    assert {200, 303, 422} <= answers.keys()
