"""Words are made of facts in one place: every refusal has its words, and every figure is written in one way."""

import ast
import re
from collections.abc import Iterator
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING

import pytest

from uranograph.bench import messages as words
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_angle, parse_length
from uranograph.shop.refusals import REFUSALS
from uranograph.stations import ORDER

if TYPE_CHECKING:
    from uranograph.bench.finding import FindingMessage

SOURCE = Path(words.__file__).parents[1]
HOLE = re.compile(r"\{(\w+)")


def raised() -> Iterator[tuple[str, str, set[str]]]:
    """Every refusal in the house: where it stands, its code, and the values that come with it."""
    for file in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "InvalidInput":
                code = node.args[1]
                if isinstance(code, ast.Constant):
                    names = {keyword.arg or "" for keyword in node.keywords}
                    yield f"{file.relative_to(SOURCE)}:{node.lineno}", code.value, names


def test_every_refusal_has_words_for_all_the_figures_that_come_with_it() -> None:
    known = {**words._REFUSALS, **REFUSALS}
    seen = set()
    for where, code, values in raised():
        assert code in known, f"{where}: nothing is said of {code}"
        template = known[code]
        if isinstance(template, str):
            assert set(HOLE.findall(template)) <= values, where
        seen.add(code)
    assert set(known) == seen, "words that nothing is refused with"


def test_no_sentence_stands_where_something_is_refused() -> None:
    for where, code, _ in raised():
        assert re.fullmatch("[a-z]+(-[a-z]+)*", code), where


def test_two_parts_of_the_house_never_say_different_things_by_one_code() -> None:
    with pytest.raises(ValueError, match="two ways"):
        words.refusals({"grips-already": "It holds."})
    assert {code for station in ORDER.stations for code in station.refusals} <= set(words._REFUSALS)


@pytest.mark.parametrize(
    ("template", "values", "unit", "sentence"),
    [
        ("{gap_mm} left", {"gap_mm": 0.254}, "inch", "0.010 left"),
        ("{gap_mm:fine} left", {"gap_mm": 0.254}, "mm", "0.254 left"),
        ("{gap_mm:u} left", {"gap_mm": 25.4}, "inch", "1 in left"),
        ("{gap_mm} left", {"gap_mm": -0.254}, "mm", "−0.25 left"),
        ("{late_deg}", {"late_deg": -0.04}, "mm", "0.0"),
        ("{late_deg:2,abs}", {"late_deg": -1.239}, "mm", "1.24"),
        ("{late_deg:signed}", {"late_deg": 1.2}, "mm", "+1.2"),
        ("{late_deg:signed}", {"late_deg": 0.01}, "mm", "0.0"),
        ("{late_deg:signed}", {"late_deg": -1.2}, "mm", "−1.2"),
        ("{sides:or}", {"sides": ("btdc", "atdc")}, "mm", "BTDC or ATDC"),
    ],
)
def test_a_figure_is_written_as_its_name_says(
    template: str, values: dict[str, object], unit: str, sentence: str
) -> None:
    assert words.render(template, values, unit) == sentence


def test_a_refusal_within_a_refusal_is_told_in_its_own_words() -> None:
    inner = InvalidInput("text", "sweep-line-unit", lift="0.05in", unit="mm")
    told = words.refusal(InvalidInput("csv", "sweep-line-refused", number=3, cause=inner))
    assert told == "Line 3: “0.05in” carries a unit of its own; the header says mm for all."


@pytest.mark.parametrize(
    ("typed", "sentence"),
    [
        ("", "Nothing is typed here. Type an angle in degrees, such as 37.5 or 55 5/8."),
        ("abc", "“abc” does not read as an angle in degrees. Type it such as 37.5 or 55 5/8."),
        ("1.27mm", "“1.27mm” is a length; this is an angle in degrees, such as 37.5 or 55 5/8."),
    ],
)
def test_what_is_said_of_an_angle_that_is_none(typed: str, sentence: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        parse_angle(typed)
    assert words.refusal(caught.value) == sentence


def test_the_example_is_in_the_unit_of_the_job() -> None:
    for unit, example in ((LengthUnit.INCH, "0.050, 50 thou or 1.27mm"), (LengthUnit.MM, "1.27, 50 thou or .050in")):
        with pytest.raises(InvalidInput) as caught:
            parse_length("thick", unit)
        assert words.refusal(caught.value, unit) == f"“thick” does not read as a length. Type it such as {example}."


def test_a_firing_order_is_told_with_all_that_is_wrong_with_it() -> None:
    wrong = InvalidInput(
        "firing_order",
        "firing-order-not-once-each",
        order=[1, 2, 9, 9],
        cylinders=4,
        missing=[3, 4],
        repeated=[9],
        unknown=[9],
    )
    assert words.refusal(wrong) == (
        "1-2-9-9 does not name each cylinder once: 3 and 4 are missing, 9 stands twice, 9 is not among 1 to 4."
    )


JUDGING = ("engine", "phase", "stations")


def judging() -> Iterator[tuple[Path, ast.Module]]:
    """Every module that judges, read."""
    for layer in JUDGING:
        for file in (SOURCE / layer).rglob("*.py"):
            yield file, ast.parse(file.read_text(encoding="utf-8"))


def messages_of(module: ast.Module, name: str) -> str:
    """The module of messages that a name was imported from; empty where it was not."""
    for node in ast.walk(module):
        if (
            isinstance(node, ast.ImportFrom)
            and (node.module or "").endswith("messages")
            and name in {n.name for n in node.names}
        ):
            return node.module or ""
    return ""


def judged() -> Iterator[tuple[str, str, str, set[str] | None]]:
    """Every finding in the house: its messages, where it stands, its code, and the figures that come with it, if all are named."""
    for file, module in judging():
        for node in ast.walk(module):
            if isinstance(node, ast.Call) and getattr(node.func, "attr", getattr(node.func, "id", "")) == "judged":
                code = next((arg for arg in node.args[1:3] if isinstance(arg, ast.Constant)), None)
                if code is not None:
                    named = {keyword.arg for keyword in node.keywords}
                    figures = None if None in named else {name for name in named if name} - {"begun"}
                    yield messages_of(module, "FINDINGS"), f"{file}:{node.lineno}", code.value, figures


def test_every_finding_has_words_for_all_its_figures() -> None:
    seen = 0
    for messages, where, code, figures in judged():
        table: dict[str, FindingMessage] = import_module(messages).FINDINGS
        assert code in table, f"{where}: nothing is said of {code}"
        said = table[code]
        # What a station's own `judged` adds to every finding.
        own = {"name", "part"} if "end_play" in where or "setting" in where else set()
        if figures is not None:
            wanted = {hole for text in (said.sentence, said.title, said.next_step) for hole in HOLE.findall(text)}
            assert wanted <= figures | own, where
        seen += 1
    assert seen > 70


# Codes that are put together while judging, by the module of their messages.
PUT_TOGETHER = {
    "stations.adjust": {"position-cures", "no-position-cures"},
    "stations.by_eye": {"early", "late", "tooth-early", "tooth-late", "firing-top", "turn-out"},
    "stations.backlash": {"tight", "loose", "both", "tight-swing", "loose-swing", "both-swing"},
    "phase": {
        *("in", "late", "early", "lobes-apart", "reads-late", "reads-early", "reads-right"),
        *("lobes-disagree", "lobe-unread"),
    },
    "stations.complaint": {
        "cured",
        "not-cured",
        "hardly-cured",
        "cured-as-seen",
        "not-cured-as-seen",
        "cannot-see-cure",
    },
    "stations.gear_fit": {
        *("too-hot", "heated-past-limit", "heated-near-limit", "heated-too-cool", "heated-short", "heated-just-so"),
        "heat-not-measured",
        "bolt-past-torque",
        "bolt-short-of-torque",
        "looking",
        "looking-and-pulling",
    },
    "stations.sprocket_line": {
        "out-of-line",
        "less-than-half-a-shim",
        *(f"{way}-shims{still}" for way in ("add", "take") for still in ("", "-still-out")),
    },
}


def test_no_words_are_kept_that_no_finding_says() -> None:
    said: dict[str, set[str]] = {}
    for _, module in judging():
        for node in ast.walk(module):
            if isinstance(node, ast.Call) and getattr(node.func, "attr", getattr(node.func, "id", "")) == "judged":
                inside = [each for arg in node.args[1:3] for each in ast.walk(arg) if isinstance(each, ast.Constant)]
                said.setdefault(messages_of(module, "FINDINGS"), set()).update(str(each.value) for each in inside)
    assert len(said) > 20
    for messages, codes in said.items():
        if not messages:
            continue
        together = PUT_TOGETHER.get(messages.removeprefix("uranograph.").removesuffix(".messages"), set())
        table = import_module(messages).FINDINGS
        assert set(table) <= codes | together, messages
        assert together <= set(table), messages


def told() -> Iterator[tuple[str, str, str, set[str]]]:
    """Every sentence that is said by a code: its messages, where it stands, its code, and its figures."""
    for file, module in judging():
        for node in ast.walk(module):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "say":
                assert isinstance(node.args[0], ast.Constant)
                named = {keyword.arg or "" for keyword in node.keywords}
                yield messages_of(module, "say"), f"{file}:{node.lineno}", node.args[0].value, named


def test_every_sentence_has_its_template_and_every_template_its_figures() -> None:
    said: dict[str, set[str]] = {}
    for messages, where, code, figures in told():
        table: dict[str, str] = import_module(messages).MESSAGES
        assert code in table, f"{where}: nothing is said of {code}"
        assert set(HOLE.findall(table[code])) == figures, where
        said.setdefault(messages, set()).add(code)
    assert sum(map(len, said.values())) > 600
    for messages, codes in said.items():
        assert set(import_module(messages).MESSAGES) == codes, messages


def test_no_station_writes_a_sentence_where_it_judges() -> None:
    """Beside its tables of words: forms, checks and lists at the head of a module, and figures, which are drawn."""
    for file in (SOURCE / "stations").glob("*/rules.py"):
        for function in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if not isinstance(function, ast.FunctionDef):
                continue
            first = function.body[0]
            body = (
                function.body[1:]
                if isinstance(first, ast.Expr) and isinstance(first.value, ast.Constant)
                else function.body
            )
            for node in (each for part in body for each in ast.walk(part)):
                if isinstance(node, ast.Constant) and isinstance(node.value, str):
                    sentence = re.search(r"[A-Z][a-z]+ [a-z]+ [a-z]+ .*[.?]$", node.value)
                    assert sentence is None, f"{file.parent.name}:{node.lineno}: {node.value}"
