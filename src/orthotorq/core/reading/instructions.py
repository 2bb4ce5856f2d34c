"""What a line tells to do beside its figures: rechecks, waits, new fasteners, orders, check
rounds."""

from __future__ import annotations

import re

from ..errors import OrthotorqError
from ..rechecking import Schedule, scan_schedule
from ..units import read_number
from .sequence import read_sequence
from .units_in_text import UNIT
from .words import GONE, Words, any_of, english

#: how far a verb can stand from the reading that it asks for
_FAR_VERB = 200
_MINUTES = {"m": 1.0, "h": 60.0, "d": 1440.0, "s": 1 / 60}
_FASTENERS = r"(?:bolts?|nuts?|screws?|studs?|capscrews?|fasteners?|hardware|washers?|lock ?nuts?)"
_NEW = (
    r"(?:(?:always |only )?(?:use|fit|install|with|take|requires?)\s+(?:only\s+)?)?(?:the\s+|a\s+)?"
    rf"new\s+(?:[a-z-]+\s+){{0,2}}?{_FASTENERS}"
    r"(?:\s+(?:only|must be (?:used|fitted)|are required|required|(?:each|every) time|always))?",
    rf"(?:always\s+)?(?:renew|replace)\s+(?:all\s+|the\s+|these\s+|any\s+|"
    rf"every\s+)*(?:[a-z]+\s+)?{_FASTENERS}"
    r"(?:\s+(?:each|every) time|\s+with new(?: ones)?|\s+always)?",
    rf"{_FASTENERS}\s+(?:must|should|shall|are to|to)\s+(?:always\s+)?be\s+(?:renewed|replaced|"
    rf"new)(?:\s+(?:each|every) time)?",
    rf"(?:do not|never|don't|must not|may not|cannot)\s+(?:be\s+)?re-?used?(?:\s+(?:the\s+|"
    rf"these\s+|old\s+)*{_FASTENERS})?",
    rf"{_FASTENERS}\s+(?:must|may|can|should)\s*(?:not|never)\s+be\s+re-?used",
    r"(?:single|one)[- ](?:time[- ])?use(?:\s+(?:only|bolts?|nuts?|screws?))?|use(?:d)? (?:only "
    r")?once(?: only)?|not re-?usable",
)
_WHERE_NEEDED = re.compile(
    r"\s*,?\s*(?:if|when|where|that are|which are|as (?:needed|required|necessary)|showing|with "
    r"damaged?)(?![\w])"
)
_DAMAGED = re.compile(
    r"(?<![\w])(?:damaged|worn|corroded|defective|faulty|stretched|if|any)(?![\w])"
)


def rechecks_of(words: Words) -> list[Schedule]:
    """Readings and intervals in a sentence that speaks of checking again; the verb is the nearest
    one."""
    patterns, out, at = english(), list[Schedule](), 0
    begins = rf"{any_of(patterns['recheck_from'])}|\d"
    while (found := words.find(begins, at)) is not None:
        at = found.end()
        verb = _nearest_verb(words, found.start())
        if verb is None or words.negated(verb.start()) or _not_needed(words, verb.end()):
            continue
        try:
            end = words.sentence(found.start())[1]
            schedule, stop = scan_schedule(words.text[:end], found.start())
        except OrthotorqError:
            continue
        if schedule is None:
            continue
        out.append(schedule)
        words.take("recheck", found.start(), stop)
        words.take("recheck", verb.start(), verb.end())
        at = stop
    return out


def _nearest_verb(words: Words, at: int) -> re.Match[str] | None:
    """The verb of checking again that stands nearest before a place in its sentence, else the first
    behind it."""
    verbs = re.compile(rf"(?<![\w])(?:{any_of(english()['recheck'])})(?![\w])")
    start, end = words.sentence(at)
    before = list(verbs.finditer(words.text, max(start, at - _FAR_VERB), at))
    return before[-1] if before else verbs.search(words.text, at, min(end, at + _FAR_VERB))


def _not_needed(words: Words, at: int) -> bool:
    """Whether what was named is not wanted: “a recheck is not necessary”."""
    return bool(re.match(r"\s+(?:is|are|need)?\s*not(?![\w])", words.text[at:]))


def wait_of(words: Words) -> float | None:
    """How long is waited between two steps [min], where a line says it."""
    unit = r"(?P<u>min(?:ute)?s?|h(?:(?:ou)?rs?)?|days?|d|sec(?:ond)?s?|s)\b\.?"
    number = rf"(?P<n>\d+(?:\.\d+)?|{'|'.join(english()['numbers'])})"
    long = (
        r"(?:\s+(?:for|at least|about|a further|another|approximately|stand|rest|settle|relax|"
        r"set|cure|"
        r"it|the|joint|gasket|to|wait|of|minimum|a))*"
    )
    verb = rf"(?:wait|pause|allow|let|leave|after a (?:wait|pause|delay)){long}"
    for pattern in (
        rf"{verb}\s+{number}\s*{unit}(?:\s+(?:to (?:settle|relax|cure|set)|between (?:passes|"
        rf"steps|rounds)|later))?",
        rf"(?:after|wait)\s+{number}\s*(?P<u>min(?:ute)?s?)\b\.?",
        rf"{number}\s*{unit}\s+later",
    ):
        for found in words.wanted(pattern):
            if re.match(r"\s*(?:-|to)\s*\d", words.text[found.end() :]):
                continue
            said = found["n"]
            value = english()["numbers"].get(said) or read_number(said)[0]
            words.take("wait", *found.span())
            return round(float(value) * _MINUTES[found["u"][0]], 6)
    return None


def new_fasteners_in(words: Words) -> bool:
    """Whether a line wants new bolts or nuts each time; not where only damaged ones are
    replaced."""
    wanted = False
    for pattern in _NEW:
        for found in words.wanted(pattern):
            if _WHERE_NEEDED.match(words.text, found.end()) or _DAMAGED.search(found[0]):
                continue
            words.take("new fasteners", *found.span())
            wanted = True
    return wanted


#: a chain is taken whole or not at all: no part of a longer one is a sequence
_CHAINED = r"(?<![-→>])(?<![-→>] )\d{1,3}(?:\s*(?:-|→|>)\s*\d{1,3}){3,}+"
_NAMED = (
    r"(?:(?:tighten(?:ing)?|torque|bolt(?:ing)?|in(?: the)?|following|numerical|this|use|"
    r"specified)\s+)*"
    r"(?:sequence|order|pattern)(?:\s+(?:of|is|shown|below|as follows|bolts?|nuts?|numbers?|"
    r"nos\.?))*\s*[:=(]?\s*"
    r"(?P<list>(?:(?:bolts?|nuts?|no\.?|#)\s*)*\d{1,3}"
    r"(?:\s*(?:-|→|>|,|;|/|\+|and|then|\s)\s*(?:and |then |bolts? |nuts? |no\.? |#)*\d{1,3}){2,})"
)


def sequence_of(words: Words) -> tuple[int, ...]:
    """The maker's own order, as the numbers of the bolts; empty where none is given."""
    tail = rf"(?![\d.,]*\d)(?!\s*-?\s*(?:{UNIT}))(?!\s*(?:%|°|per ?cent|deg|km|h\b|hours|mm))\)?"
    for pattern in (rf"{_NAMED}{tail}", rf"(?P<list>{_CHAINED}){tail}"):
        found = next(words.wanted(pattern), None)
        if found is None:
            continue
        # dashes between all of them are no ranges
        numbers = read_sequence(re.sub(r"(?<=\d)\s*[-→>]\s*(?=\d)", " ", found["list"])).numbers
        # a bolt twice, or a bolt 0: something else is counted there
        if len(set(numbers)) == len(numbers) and 0 not in numbers:
            words.take("sequence", *found.span())
            return numbers
    return ()


def check_round_in(words: Words) -> bool:
    """Whether a round proves the passes; its own order and its full torque go with it."""
    checks = False
    orders = any_of([p for spelled in english()["orders"].values() for p in spelled])
    own = (
        rf"[\s,]*(?:(?:once|going|then|all|the way)\s+)*(?:(?:{orders})|"
        r"(?:at|to) (?:the )?(?:full|final|same|100 ?%)(?: torque| value)?)(?![\w])"
    )
    for found in words.wanted(any_of(english()["check_round"])):
        end = found.end()
        if _not_needed(words, end):
            continue
        while (behind := re.match(own, words.text[end:])) is not None:
            end += behind.end()
        words.take("check round", found.start(), end)
        checks = True
    return checks


def order_of(words: Words) -> str | None:
    """The order of the passes: the first that is named and not denied."""
    named = [
        (found.start(), found.end(), kind)
        for kind, spelled in english()["orders"].items()
        for found in words.wanted(any_of(spelled))
    ]
    order = min(named)[2] if named else None
    for start, end, kind in named:
        if kind == order and GONE not in words.text[start:end]:
            words.take("order", start, end)
    return order
