"""Which deviations leave a joint unfit: something failed, and was left as it is."""

from __future__ import annotations

#: what was put right on the way, what is told by other words, or what only a reader must know
_HARMLESS = frozenset(
    {
        "heated",
        "replaced",
        "turn_finished",
        "wrong_setting_mended",
        "other_bolt",
        "order_found",
        "round_again",
        "wrench_changed",
        "cut_off",
        "drilled_out",
        "part_cut_off",
        "part_drilled_out",
        "tool_expired",
        "problem",
        "untimed",
        "moved_at_recheck",
    }
)

#: a bolt that was left for one of these is not pulled in later passes: a pull would only break it
#: further, or cannot be made
NOT_PULLED_AGAIN = frozenset(
    {"turns_on", "refuses", "no_reach", "pull_no_rise", "pull_yields", "pull_cross_thread"}
)


def leaves_unfit(code: str) -> bool:
    """Whether a deviation that was left makes the joint unfit until it is done again.

    >>> leaves_unfit("out_of_limit"), leaves_unfit("replaced")
    (True, False)
    """
    return code not in _HARMLESS
