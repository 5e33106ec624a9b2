"""A card's line as it is printed, such as `IO 12 IC 44 EO 52 EC 4 @ .050` or `228/236 LSA 110 +4`, taken apart."""

import re
from collections.abc import Mapping

from uranograph.core.errors import InvalidInput

_NUMBER = r"[-−]?(?:\d+(?:\.\d+)?|\.\d+)"
_UNIT = r'\s*(?:mm|inch|in|")?'
# Longer than any card's line or block.
MAX_LENGTH = 600
_SIDE = r"(?:deg(?:rees)?\.?|°)?\s*(btdc|atdc|bbdc|abdc)?"
_LABEL = (
    r"(?:(i|intake|int|in|inlet|e|exhaust|exh|ex)\.?[.\s-]*(?:v(?:alve)?)?[.\s-]*"
    r"(o|c|op(?:ens?|ening)?|clos(?:es?|ing))\b(?!\s*\.?\s*l\b))\.?"
)
_EVENT = re.compile(rf"\b{_LABEL}[:=\s]*({_NUMBER})\s*{_SIDE}", re.IGNORECASE)
# A card that prints its numbers before what they are: 12 BTDC intake opens.
_EVENT_AFTER = re.compile(rf"(?<![\d.])({_NUMBER})\s*{_SIDE}\s*{_LABEL}", re.IGNORECASE)
_CENTERLINE = r"(?:(i|e)\.?c\.?l\b|(intake|int|inlet|exhaust|exh)\s+(?:lobe\s+)?center\s?line\b)"
_CENTER = re.compile(rf"\b{_CENTERLINE}[:=\s]*({_NUMBER})", re.IGNORECASE)
_CENTER_AFTER = re.compile(rf"(?<![\d.])({_NUMBER})\s*(?:deg|°)?\s*{_CENTERLINE}", re.IGNORECASE)
_FOUR = re.compile(rf"\s*({_NUMBER})" + rf"[\s,;/]+({_NUMBER})" * 3 + r"\s*$")
_SEPARATION = re.compile(rf"\b(?:lsa|lobe\s+(?:separation|centers?)|lc|separation)\b[:=\s]*({_NUMBER})", re.IGNORECASE)
_SEPARATION_AFTER = re.compile(rf"({_NUMBER})\s*(?:deg|°)?\s*(?:lsa|lc)\b", re.IGNORECASE)
# The lobe is named once for both of its events.
_BOTH = re.compile(r"\b(intake|inlet|exhaust)\s+(opens?)\b((?:(?!intake|inlet|exhaust)[^;\n])*?)\bclose", re.IGNORECASE)
_CHECK = re.compile(rf"(?:@|\bat\b|\bchecked\s+at\b|\bchecking\s+lift\b)[:=\s]*({_NUMBER}{_UNIT})", re.IGNORECASE)
_LIFT = re.compile(rf"\blift\b[:=\s]*({_NUMBER}{_UNIT})(?:\s*[/,]\s*({_NUMBER}{_UNIT}))?", re.IGNORECASE)
_LIFT_AFTER = re.compile(rf"({_NUMBER}{_UNIT})(?:\s*/\s*({_NUMBER}{_UNIT}))?\s*lift\b", re.IGNORECASE)
_DURATION = re.compile(rf"\b(?:duration|dur)\b[:=\s]*({_NUMBER})(?:\s*[/,]\s*({_NUMBER}))?", re.IGNORECASE)
_PAIR = re.compile(r"(?<![\d.])(\d{2,3}(?:\.\d+)?)\s*(?:deg|°)?\s*/\s*(\d{2,3}(?:\.\d+)?)(?![\d.])")
_ADVANCE = re.compile(
    rf"\b(straight\s+up)\b|\b(?:advance|adv)\b[:=\s]*({_NUMBER})|([+]\s*\d+(?:\.\d+)?|[-−]\s*\d+(?:\.\d+)?|\d+(?:\.\d+)?)\s*(?:deg|°)?\s*(adv|advanced|ret|retard|retarded)\b"
    r"|(?<![\d.\w])([+−-]\s*\d+(?:\.\d+)?)(?![\d.])",
    re.IGNORECASE,
)
_FIELD = {"io": "io_btdc_deg", "ic": "ic_abdc_deg", "eo": "eo_bbdc_deg", "ec": "ec_atdc_deg"}
# An event on the other side of its dead center is negative.
_OTHER_SIDE = {"io": "atdc", "ic": "bbdc", "eo": "abdc", "ec": "btdc"}
_FILLERS = re.compile(
    r"\b(?:deg|degrees|crank|cam|card|valve|timing|lobe|intake|exhaust|and|with|grind|no|in|int|ex|exh)\b|[°,;:|()\s=/.@-]",
    re.IGNORECASE,
)
# A pair of numbers from here on is durations; smaller ones are not.
MIN_DURATION_DEG = 150.0


def parse_printed(text: str) -> Mapping[str, str]:
    """Take a card's line apart into the fields of the card's form.

    Parameters
    ----------
    text
        The line, or a block of lines, as printed: events with or without their sides, durations, separation, advance,
        checking lift, lifts.

    Returns
    -------
    dict
        Text by field name, as it would be typed there.

    Raises
    ------
    InvalidInput
        With `as_printed` at fault, naming what is left over and not understood.

    Examples
    --------
    >>> dict(parse_printed("IO 12 IC 44 EO 52 EC 4 @ .050"))  # doctest: +NORMALIZE_WHITESPACE
    {'io_btdc_deg': '12', 'ic_abdc_deg': '44', 'eo_bbdc_deg': '52', 'ec_atdc_deg': '4', 'check_lift': '.050'}
    >>> dict(parse_printed("228/236 LSA 110 +4"))  # doctest: +NORMALIZE_WHITESPACE
    {'intake_duration_deg': '228', 'exhaust_duration_deg': '236', 'lobe_separation_cam_deg': '110', 'advance_deg': '4'}
    >>> dict(parse_printed("110 LSA 106 ICL"))
    {'intake_centerline_deg': '106', 'lobe_separation_cam_deg': '110'}
    >>> dict(parse_printed("12 44 52 4"))
    {'io_btdc_deg': '12', 'ic_abdc_deg': '44', 'eo_bbdc_deg': '52', 'ec_atdc_deg': '4'}
    """
    if len(text) > MAX_LENGTH:
        raise InvalidInput("as_printed", "card-line-too-long", count=len(text), longest=MAX_LENGTH)
    found: dict[str, str] = {}
    left = _BOTH.sub(r"\1 \2\3 \1 close", text)

    def take(pattern: re.Pattern[str], once: bool = True) -> list[re.Match[str]]:
        nonlocal left
        matches = list(pattern.finditer(left))[: 1 if once else None]
        for match in reversed(matches):
            left = f"{left[: match.start()]} {left[match.end() :]}"
        return matches

    for match in take(_CHECK):
        _store(found, "check_lift", match[1].strip())
    # Which side of its label a number stands on shows by which comes first.
    before = _number_first(left)
    for match in take(_EVENT_AFTER if before else _EVENT, once=False):
        number, side, lobe, what = match.groups() if before else (match[3], match[4], match[1], match[2])
        kind, number = lobe[0].lower() + what[0].lower(), _plain(number)
        _store(found, _FIELD[kind], _turned(number) if (side or "").lower() == _OTHER_SIDE[kind] else number)
    for match in take(_CENTER_AFTER if before else _CENTER, once=False):
        number, short, long = match.groups() if before else (match[3], match[1], match[2])
        lobe = {"i": "intake", "e": "exhaust"}[(short or long)[0].lower()]
        _store(found, f"{lobe}_centerline_deg", _plain(number))
    if not found.keys() - {"check_lift"} and (four := _FOUR.match(left)):
        found |= dict(zip(_FIELD.values(), map(_plain, four.groups()), strict=True))
        left = ""
    for match in take(_DURATION) or [m for m in [_PAIR.search(left)] if m and float(m[1]) >= MIN_DURATION_DEG]:
        found |= {"intake_duration_deg": match[1], "exhaust_duration_deg": match[2] or match[1]}
        left = left.replace(match[0], " ", 1)
    for match in take(_LIFT) or take(_LIFT_AFTER):
        one, other = match[1].strip(), (match[2] or match[1]).strip()
        found |= {"intake_max_lift": one, "exhaust_max_lift": other}
    for match in take(_SEPARATION_AFTER if before else _SEPARATION) or take(_SEPARATION_AFTER) or take(_SEPARATION):
        _store(found, "lobe_separation_cam_deg", _plain(match[1]))
    for match in take(_ADVANCE):
        late = (match[4] or "").lower().startswith("ret")
        number = "0" if match[1] else _plain(match[2] or match[3] or match[5])
        _store(found, "advance_deg", _turned(number) if late else number)
    if over := _FILLERS.sub("", left):
        raise InvalidInput("as_printed", "card-line-left-over", typed=over[:40])
    if not found:
        raise InvalidInput("as_printed", "card-line-empty")
    order = (*_FIELD.values(), *(name for name in found if name not in _FIELD.values()))
    return {name: found[name] for name in order if name in found}


def _number_first(text: str) -> bool:
    """Whether numbers stand before what they are, as in `110 LSA 106 ICL`."""
    label = re.search(rf"\b{_LABEL}|\b{_CENTERLINE}|\blsa\b", text, re.IGNORECASE)
    number = re.search(rf"(?<![\d./]){_NUMBER}(?![\d./]|\s*/)", text)
    return bool(label and number and number.start() < label.start())


def _plain(number: str) -> str:
    return number.replace("−", "-").replace("+", "").replace(" ", "")


def _turned(number: str) -> str:
    return number[1:] if number.startswith("-") else f"-{number}"


def _store(found: dict[str, str], name: str, text: str) -> None:
    if found.get(name, text) != text:
        raise InvalidInput("as_printed", "card-line-twice", one=found[name], other=text)
    found[name] = text
