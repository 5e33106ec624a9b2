"""Changes planted by `make mutants` stand where they are planted, so that none is left out unseen."""

from tests.mutants import MUTANTS, PACKAGE, ROOT


def test_every_planted_change_has_its_place() -> None:
    gone = [
        (mutant.file, mutant.old)
        for mutant in MUTANTS
        if mutant.old not in (ROOT / PACKAGE / mutant.file).read_text(encoding="utf-8")
    ]
    assert gone == []
    assert all(mutant.old != mutant.new for mutant in MUTANTS)
