"""What is no torque, recognised first: dates, clauses, standards, sizes, grades, sockets, counts.

Their digits are then out of reach: no later reading can take one of them for part of a figure.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from .units_in_text import UNIT
from .words import GONE, Words

_FRACTION = r"(?:\d{1,2}[ -])?\d{1,2}/\d{1,2}"
#: an inch sign; “in-lb” is a unit of torque
_INCH = r"\s?(?:\"|''|-?in(?:ch(?:es)?)?\.?(?![\w])(?![\s·.-]*(?:lb|oz)))"
_SERIES = r"(?:unjf|unjc|unef|unc|unf|unr|un|nc|nf|bsw|bsf|whitworth|bspp?|npt|8un)"
_NOT_A_FIGURE = (
    rf"(?![\d.,]*\d)(?!\s*-?\s*(?:{UNIT}))(?!\s*(?:%|°|per ?cent|deg|turns?\b|flats?\b))"
)
_FASTENERS = r"(?:bolts?|nuts?|studs?|screws?|capscrews?|fasteners?|setscrews?|stud ?bolts?)"
_KIND = (
    r"(?:(?:large|small|inner|outer|upper|lower|front|rear|top|bottom|long|short|remaining|"
    r"other|new|"
    r"flange|cover|head|wheel|anchor|foundation|main|cap|hex|hexagon|socket|lug|stud|fixing|"
    r"mounting|"
    rf"clamp|clamping|gland|holding[- ]down|body|casing|bearing|end|side|drain|guard|{GONE}+)\s+)"
)
_NUMBERS = r"(?:two|three|four|five|six|seven|eight|nine|ten|twelve|sixteen|twenty)"
_MONTH = r"(?:jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec)[a-z]*\.?"
_CLAUSE = (
    r"(?:section|sect|sec|clause|cl|para(?:graph)?|chapter|chap|ch|fig(?:ure)?s?|tables?|tab|"
    r"items?|pos|"
    r"pages?|pp?|step|stage|pass|round|row|column)"
)
_PAPER = (
    r"(?:drawing|dwg|drg|part|p/n|manual|rev(?:ision)?|issue|appendix|annex|sheet|procedure|"
    r"bulletin|"
    r"ref(?:erence)?|note|instruction|spec(?:ification)?|document|doc|ed(?:ition)?|line|year)"
)
_CLAUSE_NUMBER = (
    r"\.?\s*(?:no\.?|nr\.?|number)?\s*[:#]?\s*(?=[a-z]{0,3}[-.]?\d)"
    r"[a-z]{0,3}[-.]?\d+(?:[./-]\w+)*[a-z]?(?![\w])"
)
#: “spec 20 to 25 Nm”, “note 5-7 Nm”: that is a range
_NOT_A_RANGE = rf"(?!\s*(?:to|-|and)\s*\d+(?:\.\d+)?\s*-?\s*{UNIT})"
_NO_DASH = rf"(?!\s*-\s*\d+(?:\.\d+)?\s*-?\s*{UNIT})"
#: about -> pattern, in the order in which they are looked for
_PATTERNS: tuple[tuple[str, str], ...] = (
    ("date", r"\d{4}-\d{2}-\d{2}|\d{1,2}[./]\d{1,2}[./](?:19|20)?\d{2}(?![\d.])"),
    (
        "date",
        rf"\d{{1,2}}(?:st|nd|rd|th)?\.? {_MONTH},? (?:19|20)\d\d|{_MONTH} \d{{1,2}},? (?:19|"
        rf"20)\d\d",
    ),
    ("date", rf"(?:{_MONTH}|in|since|of|from|edition|dated) (?:19|20)\d\d(?![\w.,])(?!\s*{UNIT})"),
    (
        "clause",
        rf"{_CLAUSE}{_CLAUSE_NUMBER}{_NOT_A_FIGURE}{_NO_DASH}|"
        rf"{_PAPER}{_CLAUSE_NUMBER}{_NOT_A_FIGURE}{_NOT_A_RANGE}",
    ),
    ("clause", rf"(?:see|per|to)\s+\d+(?:\.\d+){{2,}}(?![\w.]){_NOT_A_FIGURE}|§+\s*\d+(?:\.\d+)*"),
    (
        "clause",
        rf"(?:part|serial|order|item)? ?(?:no\.?|nr\.?) "
        rf"?(?=[\w-]*\d-\d)[\w-]+(?![\w-]){_NOT_A_FIGURE}(?!\s*un[cf]|-)",
    ),
    (
        "standard",
        r"(?:(?:din|iso|en|asme|astm|ansi|bs|api|jis|vdi|"
        r"sae)[ -]?)+(?![ -]?\d{1,2}w)[a-z]{0,3}[ -]?\d"
        rf"[\w:]*(?:[./-]\d+)*(?![\w]){_NOT_A_FIGURE}",
    ),
    (
        "grade",
        r"(?:sae |iso |astm )?(?:property |strength |nut |bolt |steel )?(?:class(?:es)?|grade|"
        r"gr|cl|quality)\.?"
        rf"\s*[:=]?\s*(?:[a-z]{{0,2}}\d{{1,3}}[a-z]?(?:[.-]\d{{1,3}})?(?:/\d{{1,2}})?|"
        rf"[a-h])(?![\w]){_NOT_A_FIGURE}",
    ),
    ("grade", rf"(?:a[1-5]-(?:50|70|80|100)|b7m?|b8m?|b16|l7m?|2h)(?![\w.]){_NOT_A_FIGURE}"),
    (
        "drive",
        rf"(?:{_FRACTION}|\d){_INCH}(?:[ -]square)?[ -]drive|{_FRACTION}[ -](?:square )?drive",
    ),
    (
        "socket",
        rf"(?:\d{{1,3}}\s*mm|{_FRACTION}{_INCH}|\d{{1,2}}-?mm|{_FRACTION})"
        r"\s*(?:a/?f\b(?: socket)?|across (?:the )?flats|(?:hex(?:agon)? |deep |impact |ring |"
        r"open[- ]end(?:ed)? |box )*"
        r"(?:socket|spanner|key|ring|allen(?: key)?|bit))",
    ),
    (
        "socket",
        rf"(?:(?:width )?across (?:the )?flats|a/?f|sw|(?:socket|spanner|key)(?: size)?)\s*[:=]?\s*"
        rf"(?:{_FRACTION}{_INCH}|\d{{1,3}}(?:\s*mm\b)?){_NOT_A_FIGURE}{_NOT_A_RANGE}|"
        rf"\d{{1,3}}\s*a/?f(?![\w])",
    ),
    (
        "length",
        r"\d+(?:\.\d+)?\s*(?:mm|cm|m)\s+(?:long|thick|deep|wide|diameter|dia|extension|bar|"
        r"lever|grip|clear(?:ance)?|gap)",
    ),
    ("clause", rf"(?:dn|pn) ?\d{{1,4}}(?![\w.]){_NOT_A_FIGURE}"),
    ("length", r"ø ?\d+(?:\.\d+)?(?:\s*mm)?"),
)
_METRIC = re.compile(
    r"(?<![\w.])m ?(?P<d>\d{1,3}(?:\.\d)?)"
    rf"(?P<more>(?:\s?x\s?\d+(?:\.\d+)?{_NOT_A_FIGURE}(?:\s?mm\b)?){{0,2}})"
    rf"(?:-\d?[a-z]?\d?[gh](?![\w]))?(?![\w]|\.\d){_NOT_A_FIGURE}"
)
_INCH_THREADS = re.compile(
    rf"(?<![\w./])(?:(?P<a>{_FRACTION}){_INCH}?\s*-\s*(?P<tpi>\d{{1,2}})"
    rf"(?:\s*-?\s*(?P<s>{_SERIES}))?"
    rf"|(?P<b>{_FRACTION}|\d{{1,2}}){_INCH}?\s*-\s*(?P<tpi2>\d{{1,2}})\s*-?\s*(?P<s2>{_SERIES})"
    rf"|(?P<c>{_FRACTION}){_INCH}?\s*-?\s*(?P<s3>{_SERIES})"
    rf"|(?P<no>(?:#|no\.? ?)\d{{1,2}})\s*-\s*(?P<tpi3>\d{{2}})(?:\s*-?\s*(?P<s4>{_SERIES}))?"
    rf"|(?P<e>{_FRACTION}){_INCH}(?=\s*(?:{_KIND})?(?:{_FASTENERS}|thread|dia)))"
    rf"(?:\s*-?\s*[123][ab])?(?:\s?x\s?(?:{_FRACTION}|"
    rf"\d+(?:\.\d+)?)(?:{_INCH})?(?:\s*long)?{_NOT_A_FIGURE})?"
    rf"(?![\w/.]|[,]\d){_NOT_A_FIGURE}"
)
#: property classes as they stand alone behind a size, before a colon or before what they belong to
_CLASSES = r"(?:3\.6|4\.6|4\.8|5\.6|5\.8|6\.8|8\.8|9\.8|10\.9|12\.9)"
_BARE_CLASS = re.compile(
    rf"(?:(?<={GONE})[\s,/-]*(?P<behind>{_CLASSES})|(?<![\w.,])(?P<alone>{_CLASSES})(?=\s*(?::|"
    rf"=|{_KIND}?{_FASTENERS}|steel)))"
    rf"(?![\d.])(?!\s*(?:to|-|\.\.)\s*\d+(?:\.\d+)?\s*{UNIT}(?<!\d)){_NOT_A_FIGURE}"
)
_BEHIND_CLASS = re.compile(
    rf"(?<={GONE})(?:\s+{_FASTENERS})?[\s,/-]+(?P<behind>{_CLASSES})(?![\d.]){_NOT_A_FIGURE}"
)
_TO_A_FIGURE = re.compile(rf"\s*(?:to|-)\s*(?P<n>\d+(?:\.\d+)?)\s*-?\s*{UNIT}")
_NAMED = rf"(?:{_FASTENERS}|positions?|nos?\.|numbers?)"
_COUNTS = (
    rf"(?:\d{{1,3}}|{_NUMBERS})(?:\s*(?:x|off|pcs\.?|pieces|nos?\.?)\s*|\s+)(?:of (?:the "
    rf")?)?{_KIND}{{0,3}}{_FASTENERS}(?![\w])",
    rf"(?:\d{{1,3}}|{_NUMBERS})\s*(?:x|off|-|of|pcs\.?|pieces)\s*(?={GONE})",
    r"\d{1,3}\s*(?:off|pcs\.?|pieces)(?![\w])|(?:qty|quantity)\.?\s*:?\s*\d{1,3}(?![\d.])",
    rf"all (?:of )?(?:the )?(?:[2-9]|1[0-6]|{_NUMBERS})(?![\w.]){_NOT_A_FIGURE}",
    rf"{_NAMED}\s*#?\d{{1,3}}(?:\s*(?:,|and|&|to|-|through|/|"
    rf"\+)\s*#?\d{{1,3}}(?!\d){_NOT_A_FIGURE})+(?!\d){_NOT_A_FIGURE}",
    rf"{_NAMED}\s*#?\d{{1,3}}(?![\d./]){_NOT_A_FIGURE}{_NOT_A_RANGE}",
    r"\d{1,2}(?:st|nd|rd|th)\b",
)
#: clause numbers at the head of a line: 7.4 Tighten …
_HEAD = re.compile(
    rf"(?:^|(?<=\n))\s*[1-9]\d?(?:\.\d{{1,2}})+\.?\)?(?=\s+[a-z]{{3}})(?!\s*(?:{UNIT}))"
)
_LARGEST_PITCH = 6.0
#: a range whose ends are further apart than this is hardly meant as one
WIDEST = 2.5


@dataclass(frozen=True, slots=True)
class Size:
    """A thread as a line names it, as a plan writes it, and where it stands."""

    name: str
    start: int
    end: int


def _metric_name(found: re.Match[str]) -> str:
    """`M20x2.5` where a pitch is said; a length or a count behind the size is not part of it."""
    given = re.search(r"x\s?(\d+(?:\.\d+)?)", found["more"] or "")
    diameter = float(found["d"])
    pitched = given is not None and float(given[1]) <= min(_LARGEST_PITCH, diameter / 2)
    return f"M{diameter:g}" + (f"x{float(given[1]):g}" if pitched and given is not None else "")


def _inch_name(found: re.Match[str]) -> str:
    part = found.groupdict()
    size = next(part[k] for k in ("a", "b", "c", "no", "e") if part[k])
    threads = next((part[k] for k in ("tpi", "tpi2", "tpi3") if part[k]), "")
    series = next((part[k] for k in ("s", "s2", "s3", "s4") if part[k]), "")
    size = re.sub(r"(?:no\.? ?|#)", "#", size).replace(" ", "-")
    return f"{size}{f'-{threads}' if threads else ''}{f' {series.upper()}' if series else ''}"


def _sizes(words: Words) -> list[Size]:
    out = list[Size]()
    for pattern, name in ((_INCH_THREADS, _inch_name), (_METRIC, _metric_name)):
        at = 0
        while (found := pattern.search(words.text, at)) is not None:
            at = found.end()
            # five metres are no thread of 5
            if name is _metric_name and found[0][1] == " " and words.line[found.start()] != "M":
                continue
            out.append(Size(name(found), *found.span()))
            words.take("thread", *found.span())
    return sorted(out, key=lambda one: one.start)


def _classes(words: Words) -> None:
    """Property classes that stand alone; where one may be the low end of a range, it is asked
    back."""
    for pattern in (_BEHIND_CLASS, _BARE_CLASS):
        at = 0
        while (found := pattern.search(words.text, at)) is not None:
            group = "behind" if found["behind"] else "alone"
            at = found.end()
            high = _TO_A_FIGURE.match(words.text, found.end(group))
            if high and float(high["n"]) <= WIDEST * float(found[group]):
                continue
            words.take("grade", *found.span(group))


def may_be_a_class(words: Words, at: int) -> bool:
    """Whether a number that begins at a place stands where a property class does: behind a size."""
    found = re.compile(rf"{_CLASSES}(?![\d.])").match(words.text, at)
    return bool(found and re.search(rf"(?:{GONE}|{_FASTENERS})[\s,/-]*$", words.text[:at]))


def set_apart(words: Words) -> list[Size]:
    """Take out of a line what is no torque; its sizes are given back, in their order."""
    while (head := _HEAD.search(words.text)) is not None:
        words.take("clause", *head.span())
    for about, pattern in _PATTERNS:
        while (found := words.find(pattern)) is not None:
            words.take(about, *found.span())
    sizes = _sizes(words)
    _classes(words)
    return sizes


def counts_apart(words: Words) -> None:
    """Take out how many, and which numbers they have; a sequence is read before."""
    for pattern in _COUNTS:
        while (found := words.find(pattern)) is not None:
            words.take("count", *found.span())
