"""`make mutants`, second part: changes drawn at random from core, evidence, phase and stations. Exits 1 where 5 % go unnoticed."""

import ast
import copy
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from tests.mutants import PACKAGE, ROOT

LAYERS = ("core", "evidence", "phase", "stations")
# Drawings and words are looked at by tests of their own.
LEFT_OUT = ("messages", "drawing", "station")
JUDGING = "tests/phase tests/stations tests/engine tests/bench"
TESTS = {"core": f"tests/core {JUDGING}", "evidence": f"tests/evidence {JUDGING}"}
TURNED = {ast.Lt: ast.Gt, ast.Gt: ast.Lt, ast.LtE: ast.Gt, ast.GtE: ast.Lt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq}
MAX_SURVIVING = 0.05


@dataclass(frozen=True)
class Spot:
    """One place that can be changed: the file, the lines of the expression, and what stands there instead."""

    file: Path
    line: int
    end_line: int
    column: int
    end_column: int
    old: str
    new: str


def changed(node: ast.AST) -> ast.AST | None:
    """The expression with one thing turned round; None where there is nothing to turn."""
    new = copy.deepcopy(node)
    if isinstance(new, ast.Compare) and type(new.ops[0]) in TURNED:
        new.ops[0] = TURNED[type(new.ops[0])]()
        return new
    if isinstance(new, ast.BinOp) and isinstance(new.op, ast.Add | ast.Sub) and not isinstance(new.left, ast.Constant):
        new.op = ast.Sub() if isinstance(new.op, ast.Add) else ast.Add()
        return None if isinstance(new.right, ast.Constant | ast.JoinedStr) and not _number(new.right) else new
    if isinstance(new, ast.BoolOp):
        new.op = ast.Or() if isinstance(new.op, ast.And) else ast.And()
        return new
    if isinstance(new, ast.UnaryOp) and isinstance(new.op, ast.Not):
        return new.operand
    return None


def _number(node: ast.AST) -> bool:
    return isinstance(node, ast.Constant) and isinstance(node.value, int | float)


def spots() -> Iterator[Spot]:
    """Every place in functions of the four layers."""
    for layer in LAYERS:
        for file in sorted((ROOT / PACKAGE / layer).rglob("*.py")):
            if file.stem in LEFT_OUT or file.stem.endswith("messages"):
                continue
            text = file.read_text(encoding="utf-8")
            for function in ast.walk(ast.parse(text)):
                if not isinstance(function, ast.FunctionDef):
                    continue
                for node in ast.walk(function):
                    new = changed(node)
                    if new is not None and isinstance(node, ast.expr) and node.end_lineno is not None:
                        old = ast.get_source_segment(text, node) or ""
                        place = (node.lineno, node.end_lineno, node.col_offset, node.end_col_offset or 0)
                        yield Spot(file, *place, old, f"({ast.unparse(new)})")


def noticed(spot: Spot, folder: Path) -> bool:
    """Whether the tests fail with the change in place."""
    shutil.rmtree(folder / "src", ignore_errors=True)
    shutil.copytree(ROOT / PACKAGE, folder / PACKAGE, ignore=shutil.ignore_patterns("__pycache__"))
    inside = spot.file.relative_to(ROOT)
    file = folder / inside
    lines = file.read_bytes().splitlines(keepends=True)
    before, after = lines[spot.line - 1][: spot.column], lines[spot.end_line - 1][spot.end_column :]
    lines[spot.line - 1 : spot.end_line] = [before + spot.new.encode() + after]
    file.write_bytes(b"".join(lines))
    environment = {**os.environ, "PYTHONPATH": str(folder / "src"), "PYTHONDONTWRITEBYTECODE": "1"}
    tests = TESTS.get(inside.relative_to(PACKAGE).parts[0], f"{JUDGING} tests/web tests/shop").split()
    run = [sys.executable, "-m", "pytest", "-x", "-q", "-q", "-n", "2", "-p", "no:cacheprovider", *tests]
    return subprocess.run(run, cwd=ROOT, env=environment, capture_output=True, check=False).returncode != 0


def main(count: int, seed: int) -> int:
    """Draw so many changes and say which went unnoticed."""
    drawn = random.Random(seed).sample(list(dict.fromkeys(spots())), count)
    alive = 0
    with tempfile.TemporaryDirectory() as folder:
        for spot in drawn:
            seen = noticed(spot, Path(folder))
            alive += not seen
            where = f"{spot.file.relative_to(ROOT / PACKAGE)}:{spot.line}"
            print(f"{'noticed' if seen else 'UNSEEN '} {where}: {spot.old} -> {spot.new}", flush=True)
    print(f"{count - alive} of {count} changes at random were noticed (seed {seed})")
    return 1 if alive > MAX_SURVIVING * count else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]), int(sys.argv[2])))
