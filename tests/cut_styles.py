"""`make styles`: cuts the style framework to the rules that any page can use, and writes what ships.

The whole of it lies in styles/, out of the package. Kept is a rule one of whose selectors names only elements, classes and
attributes that stand somewhere in the templates or scripts; and of the variables those that kept rules or ours use.
"""

import re
import sys
from collections.abc import Iterator
from functools import partial
from pathlib import Path

ROOT = Path(__file__).parent.parent
WHOLE = ROOT / "styles" / "bootstrap.min.css"
SHIPPED = ROOT / "src" / "uranograph" / "web" / "static" / "vendor" / "bootstrap" / "bootstrap.cut.css"
OURS = ROOT / "src" / "uranograph" / "web" / "static"
# Elements that browsers make by themselves or that hold every page.
ALWAYS = {"html", "body", "root", "host"}
_NAME = re.compile(r"\.((?:[\w-]|\\.)+)")
_ELEMENT = re.compile(r"(?:^|[\s>+~(,])([a-z][a-z0-9]*)")
_WORD = re.compile(r"[A-Za-z][A-Za-z0-9_-]*")
_USE = re.compile(r"var\((--[\w-]+)")


def words_used() -> set[str]:
    """Every word of every template and script: whatever a page's classes and elements can be."""
    found: set[str] = set()
    for folder, kinds in ((ROOT / "src" / "uranograph", ("*.html", "*.py")), (OURS, ("*.js",))):
        for kind in kinds:
            for path in folder.rglob(kind):
                if "vendor" not in path.parts:
                    found |= set(_WORD.findall(path.read_text(encoding="utf-8")))
    return found


def rules(text: str) -> Iterator[tuple[str, str]]:
    """The rules of a style sheet: what stands before each brace, and what between it and its fellow."""
    at = 0
    while at < len(text):
        opened, ended = text.find("{", at), text.find(";", at)
        if opened < 0:
            return
        if 0 <= ended < opened:
            at = ended + 1
            continue
        depth, end = 1, opened + 1
        while depth:
            depth += {"{": 1, "}": -1}.get(text[end], 0)
            end += 1
        yield text[at:opened].strip(), text[opened + 1 : end - 1]
        at = end


def serves(selector: str, used: set[str]) -> bool:
    """Whether a selector can match anything on our pages."""
    bare = re.sub(r"::?[\w-]+(\([^()]*\))?", "", re.sub(r"\[[^\]]*\]", "", selector))
    if re.search(r"\[data-bs-(?!theme)|\[class[*^]", selector):
        return False
    names = {name.replace("\\", "") for name in _NAME.findall(bare)}
    elements = set(_ELEMENT.findall(re.sub(r"\.(?:[\w-]|\\.)+", "", bare)))
    return names <= used and elements <= used | ALWAYS


def cut(text: str, used: set[str]) -> str:
    """A style sheet without the rules that serve nothing."""
    kept = []
    for head, body in rules(re.sub(r"/\*.*?\*/", "", text, flags=re.DOTALL)):
        if head.startswith(("@media", "@supports")):
            if inner := cut(body, used):
                kept.append(f"{head}{{{inner}}}")
        elif head.startswith("@"):
            continue
        else:
            own = [each for each in re.split(r",(?![^()]*\))", head) if serves(each, used)]
            if own:
                kept.append(f"{','.join(own)}{{{body}}}")
    return "".join(kept)


def _with(needed: set[str], match: re.Match[str]) -> str:
    lines = [line for line in match[1].split(";") if line]
    return f"{{{';'.join(line for line in lines if not line.startswith('--') or line.partition(':')[0] in needed)}}}"


def without_variables(text: str, wanted: set[str]) -> str:
    """The sheet without the variables that nothing uses, one after the other until none is left over."""
    while True:
        needed = wanted | set(_USE.findall(text))
        fewer = re.sub(r"\{([^{}]*)\}", partial(_with, needed), text)
        fewer = re.sub(r"[^{}]+\{\}", "", fewer)
        if fewer == text:
            return text
        text = fewer


def shipped() -> str:
    """What ships of the framework."""
    whole = WHOLE.read_text(encoding="utf-8")
    notice = "/* Bootstrap 5.3, cut to the rules these pages use. Licensed MIT: see LICENSE beside this file. */\n"
    ours = "".join(path.read_text(encoding="utf-8") for path in OURS.glob("*.css"))
    found = without_variables(cut(whole, words_used()), set(_USE.findall(ours)))
    return notice + found.replace("}", "}\n")


if __name__ == "__main__":
    SHIPPED.write_text(shipped(), encoding="utf-8")
    sys.stdout.write(f"{SHIPPED.name}: {SHIPPED.stat().st_size / 1000:.0f} kB of {WHOLE.stat().st_size / 1000:.0f}\n")
