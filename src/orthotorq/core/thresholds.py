"""Every number that decides, in one table: what it decides, its value, where it comes from. Shown
in the handbook.

A threshold is tested on both sides (tests/core/test_thresholds.py); who changes one changes it here
and nowhere else.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Threshold:
    """One number that decides: what it decides, its value and unit, where it comes from."""

    name: str
    value: float
    unit: str
    decides: str
    source: str

    @property
    def text(self) -> str:
        """The value with its unit."""
        return f"{self.value:g} {self.unit}".strip()


TABLE: dict[str, Threshold] = {}
_HAND, _PLAIN = "what arms bear over a shift; caution, not law", "the plain rule of the trade"
_TRADE, _DRAWING = (
    "usual in the trade; a planner may waive the finding",
    "how it is drawn, and no more",
)


def _t(name: str, value: float, unit: str, decides: str, source: str = _TRADE) -> Threshold:
    TABLE[name] = Threshold(name, value, unit, decides, source)
    return TABLE[name]


# passes
MOST_PERCENT = _t(
    "most_percent",
    110,
    "%",
    "a pass above this share of the figure is refused",
    "hub makers go to 105 to 110 %",
)
MOVED_ABOVE = _t(
    "moved_above",
    5,
    "deg",
    "a bolt that turned more has moved, where the plan says nothing else",
    "about the turn that hand and eye can tell",
)
RISING_FROM = _t(
    "rising_from", 50, "%", "a gasket whose first torque pass is above this closes unevenly"
)
FULL = _t(
    "full", 100, "%", "passes that stay below it never give the chosen torque", "the figure itself"
)
HANGING_MOST = _t(
    "hanging_most",
    60,
    "%",
    "a wheel that hangs is seated with no more than this share of the figure",
    "so that it neither turns nor shifts the machine on its stands",
)
HOT_ABOVE = _t(
    "hot_above",
    60,
    "°C",
    "a joint that is turned above this temperature counts as hot",
    "parts that burn the hand; gaskets creep well below it too",
)
ANGLE_SAME = _t(
    "angle_same",
    0.5,
    "deg",
    "angles of figure and passes that differ by more are two figures",
    "rounding of flats",
)
# drawing: what a bolt is filled to after a pass without a share
SNUG_OF_AN_ANGLE = _t(
    "snug_of_an_angle",
    0.5,
    "of the figure",
    "fill of a bolt at the snug torque before an angle",
    _DRAWING,
)
FEEL_SHARE = _t("feel_share", 60, "%", "fill of a bolt tightened by feel", _DRAWING)
BACKED_OFF_SHARE = _t("backed_off_share", 8, "%", "fill of a bolt that was backed off", _DRAWING)
LOOSENED_SHARE = _t(
    "loosened_share", 0.5, "of before", "fill of a bolt after one round of loosening", _DRAWING
)
DRAWN_HALF = _t("drawn_half", 50, "%", "fill of a bolt whose gap is not drawn yet", _DRAWING)
DRAWN_HEIGHT = _t("drawn_height", 70, "%", "height of an even draw on the tape", _DRAWING)
# tools
TOOL_FROM = _t(
    "tool_from",
    0.2,
    "of the maximum",
    "a wrench is not used below this",
    "ISO 6789-1, range of a class",
)
TOO_COARSE = _t(
    "too_coarse",
    0.02,
    "of the setting",
    "a setting that rounds off more asks for a finer scale",
    "half of the usual 4 % of a wrench",
)
PRESET_SAME = _t(
    "preset_same",
    0.01,
    "of the figure",
    "a preset driver may differ from what is wanted by this",
    "reading of its scale",
)
HAND_FORCE_MANY = _t(
    "hand_force_many", 250, "N", "hand force above this is too much for many pulls", _HAND
)
MANY_PULLS = _t("many_pulls", 20, "pulls", "so many pulls are many", _HAND)
HAND_FORCE_ANY = _t(
    "hand_force_any", 400, "N", "hand force above this is too much for any pull", _HAND
)
REACTION_MUCH = _t("reaction_much", 2500, "N", "a reaction above this is a caution of its own")
TOOL_REACHES = _t(
    "tool_reaches",
    0.6,
    "of the plan's maximum",
    "a registered wrench with less reach is not offered for a plan's",
)
# load
STIFFNESS_SCATTER = _t(
    "stiffness_scatter",
    0.1,
    "of the gain",
    "scatter of what an angle gives",
    "the cone model gives stiffness to about a tenth",
)
GAUGE_OFF = _t("gauge_off", 2, "%", "how far the gauge of a tensioner's pump may be off")
TRANSFER_OFF = _t(
    "transfer_off", 0.05, "", "how far a load transfer factor may be off: hand run-down, its rule"
)
STRETCH_SAME = _t(
    "stretch_same", 3, "%", "further from the target than that, a pressure leaves another load"
)
SHORT_GRIP = _t(
    "short_grip", 3, "diameters", "a shorter grip loses much by settling", "VDI 2230-1: settling"
)
NUT_TURNS = _t(
    "nut_turns",
    5,
    "turns",
    "fewer engaged turns in a nut are few",
    "thin nuts of ISO 4035 have about as many",
)
SIZES_APART = _t(
    "sizes_apart", 1.5, "times", "stresses of sizes in one joint further apart are out of line"
)
SOCKET_ROOM = _t(
    "socket_room",
    1.3,
    "widths across flats",
    "bolts nearer to each other leave no room for a socket",
    "wall of a socket",
)
GUESSED_BAND = _t("guessed_band", 3, "high over low", "a wider friction band is a guess")
SOURCES_APART = _t(
    "sources_apart", 0.05, "of the first", "valid sources further apart are a conflict"
)
WASHER_SPREAD = _t(
    "washer_spread", 1.6, "thicknesses", "a washer widens the face behind it by this", "VDI 2230-1"
)
SLIP_STEADY = _t(
    "slip_steady",
    1.2,
    "times",
    "safety against slip wanted for a steady transverse load",
    "VDI 2230-1",
)
SLIP_ALTERNATING = _t(
    "slip_alternating", 1.8, "times", "the same for an alternating one", "VDI 2230-1"
)
TORSION_KEPT = _t(
    "torsion_kept", 0.5, "of the torsion", "what stays in the bolt when it works", "VDI 2230-1"
)
LONG_FORM_TO = _t(
    "long_form_to",
    0.2,
    "friction",
    "above it the exact form is given beside the long form",
    "the long form is 0.2 to 0.5 % low up to here, and more above",
)
PAIR_SLIP = _t(
    "pair_slip",
    0.02,
    "of the ratio",
    "a ratio of readings this near to that of a usual slip looks like it",
    "rounding of printed figures",
)
PAIR_CLEARLY = _t(
    "pair_clearly",
    3,
    "times",
    "a source so much nearer to one reading of a misprinted pair decides",
    "distance in the logarithm",
)
PLAIN_STEEL = _t(
    "plain_rule_steel", 1, "diameters", "engaged length of the plain rule in steel", _PLAIN
)
PLAIN_IRON = _t("plain_rule_iron", 1.5, "diameters", "the same in cast iron", _PLAIN)
PLAIN_ALUMINIUM = _t("plain_rule_aluminium", 2, "diameters", "the same in aluminium", _PLAIN)
# running
OLDEST_DAYS = _t(
    "oldest_days",
    30,
    "days",
    "a device's clock is believed so far back",
    "a tablet left in a drawer",
)
CLOCK_BACK = _t(
    "clock_back",
    120,
    "s",
    "the server's clock has gone back when an entry lies so far after a later one",
    "two servers of time differ by less",
)
READING_OVER = _t("reading_over", 3, "times the torque", "a torque reading above this cannot be")
READING_FAR = _t(
    "reading_far",
    5,
    "times the width of a limit",
    "a reading so far outside is asked back before it is kept",
)
GAP_FAR = _t(
    "gap_far",
    6,
    "times what a turn draws",
    "a gap that grew by more since the last round is asked back",
)
HAND_SECONDS = _t(
    "hand_seconds", 2, "s", "no hand sets a socket, pulls and steps on faster: the record marks it"
)
MOST_TRIES = _t(
    "most_tries",
    3,
    "times",
    "so often the same fault is repaired and tried again; then it is replaced or left",
)
RECHECK_ROUNDS = _t(
    "recheck_rounds", 3, "rounds", "gone after a bolt moved at a recheck, where the plan gives none"
)
# pulls of a torque-and-angle wrench
_SEEN = "our own, measured over many seeds: pulls.md"
WIND_UP = _t("wind_up", 6, "deg", "less turn in a whole pull is that of socket and wrench", _SEEN)
BITES = _t(
    "bites",
    10,
    "% of the target",
    "torque above this in the first fifth of the run-down: crossed thread",
    _SEEN,
)
EARLY = _t(
    "early",
    35,
    "% of the target",
    "torque above this before six tenths of the run-down: too little turn",
    _SEEN,
)
JUMPS = _t("jumps", 4, "% of the target", "a fall of more, three times: stick-slip", _SEEN)
FALLS = _t(
    "falls",
    10,
    "% of the highest",
    "torque that ends lower by more: something strips or breaks",
    _SEEN,
)
YIELDING = _t(
    "yielding",
    50,
    "% of the rise before",
    "a last quarter that rises by less, with more turn than wanted: yield",
    _SEEN,
)
LITTLE_TURN = _t(
    "little_turn", 0.6, "of the turn expected", "less turn from snug is too little", _SEEN
)
MUCH_TURN = _t("much_turn", 1.6, "of the turn expected", "more turn from snug is too much", _SEEN)
JUDGED_FROM = _t(
    "judged_from",
    4,
    "deg",
    "less turn expected than this: so stiff a joint is not judged by it",
    _SEEN,
)
BREAKS_AWAY = _t(
    "breaks_away", 15, "% below the wind-up", "a bolt that is tight already has broken away", _SEEN
)
MOVES_ON = _t(
    "moves_on", 1, "deg", "a wrench that reads its angle calls less than this no turn", _SEEN
)
COMES_TO = _t(
    "comes_to", 90, "% of the angle", "a turn without a window has come to its angle", _SEEN
)
MOST_TURNS = _t("most_turns", 10, "turns", "an angle reading above this cannot be")
# signing in
PASSWORD_LEAST = _t(
    "password_least",
    12,
    "characters",
    "a password has at least so many",
    (
        "NIST SP 800-63B asks for 8, and for 15 where it is all that is asked; twelve and a list "
        "lie between"
    ),
)
PASSWORD_MOST = _t("password_most", 128, "characters", "a password has at most so many", _PLAIN)
PIN_LEAST = _t(
    "pin_least",
    6,
    "digits",
    "a PIN has at least so many",
    "a million of them, and eight tries in a quarter of an hour",
)
PIN_MOST = _t(
    "pin_most",
    8,
    "digits",
    "a PIN has at most so many",
    "a password is longer: one is never taken for the other",
)
INVITATION_DAYS = _t("invitation_days", 7, "d", "an invitation can be used so long", _PLAIN)
SENT_LATE = _t(
    "sent_late",
    60,
    "min",
    "the record says when an entry was received, where that is later by so much",
    _PLAIN,
)
MOST_SIDE_DRAFTS = _t(
    "most_side_drafts", 100, "drafts", "so many other drafts of one person for one plan", _PLAIN
)
FAILED_ADDRESS = _t(
    "failed_address",
    50,
    "tries",
    "so many failed sign-ins from one address in the same time, then a wait",
    "a whole control room may sit behind one address",
)
SESSION_IDLE = _t("session_idle", 14, "h", "a session that lay idle so long is ended", _PLAIN)
PIN_IDLE = _t(
    "pin_idle",
    15,
    "min",
    "a session that a PIN began asks for it again when nobody has used it for so long",
    _PLAIN,
)
FRESH_SIGN_ON = _t(
    "fresh_sign_on",
    5,
    "min",
    "so long a fresh answer of the plant sign-on counts as a password",
    _PLAIN,
)
SESSION_LONGEST = _t(
    "session_longest", 7, "d", "a session is ended after so long in any case", _PLAIN
)
FAILED_TRIES = _t(
    "failed_tries",
    8,
    "tries",
    "failed sign-ins with one name before it has to wait",
    "NIST 800-63B asks for a limit",
)
FAILED_MINUTES = _t(
    "failed_minutes", 15, "min", "the time in which they are counted", "NIST 800-63B"
)
# coming back
RECHECK_EARLY = _t(
    "recheck_early",
    0.8,
    "of the reading",
    "a recheck from this share of a reading on counts for it",
    "a fifth early is on time",
)
RECHECK_GRACE = _t(
    "recheck_grace",
    0.1,
    "of the interval",
    "days after the day before a recheck is overdue",
    _PLAIN,
)
RECHECK_GRACE_MOST = _t("recheck_grace_most", 14, "days", "and no more days than this", _PLAIN)
KEEPS_MOVING = _t(
    "keeps_moving", 3, "rechecks", "a joint that had moved at so many in a row keeps moving"
)
MOVED_DIES = _t(
    "moved_dies",
    0.5,
    "of before",
    "movement that is not down to this at the next recheck does not die away",
    "settling halves at least from one recheck to the next",
)
METER_READINGS = _t(
    "meter_readings",
    3,
    "readings",
    "a forecast needs so many",
    "two make a line, a third says whether it holds",
)
METER_DAYS = _t(
    "meter_days", 7, "days", "a forecast needs readings over so long", "a week has its own rhythm"
)
METER_LAST = _t(
    "meter_last",
    30,
    "readings",
    "the last ones that a forecast looks at",
    "so that a list is quick",
)
RUN_BREAK = _t(
    "run_break",
    4,
    "h",
    "a run that stood still so long asks its condition and tools again",
    "half a shift: heat, load and hands have changed",
)
METER_ODD = _t(
    "meter_odd",
    5,
    "times the usual",
    "a reading that has run so much faster is asked back",
    "a digit too many is ten times as much",
)
METER_AGES = _t(
    "meter_ages", 30, "days", "a slope so old weighs half", "use changes with the season"
)
LESSON_LEAST = _t(
    "lesson_least",
    10,
    "values",
    "own records say something from so many on",
    "fewer are an anecdote",
)
LESSON_PAUSE = _t("lesson_pause", 300, "s", "a longer time from bolt to bolt is a pause", _PLAIN)
