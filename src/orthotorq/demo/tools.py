"""The tool room of Vellmark Saltworks: serial, what it is, months of calibration left, note."""

from __future__ import annotations

from typing import Any


def _click(
    low: str, high: str, increment: str, length: str, drive: str, mark: str
) -> dict[str, Any]:
    return {
        "kind": "click wrench",
        "range": [low, high],
        "increment": increment,
        "mark": mark,
        "accuracy": 0.04,
        "length": length,
        "drive": drive,
    }


TOOLS: tuple[tuple[str, dict[str, Any], int, str], ...] = (
    ("TW-01", _click("20 N·m", "120 N·m", "0.5 N·m", "480 mm", "1/2 in", "10 N·m"), 7, ""),
    ("TW-02", _click("4 N·m", "20 N·m", "0.2 N·m", "260 mm", "3/8 in", "1 N·m"), 5, ""),
    ("TW-03", _click("80 N·m", "420 N·m", "2 N·m", "1000 mm", "3/4 in", "20 N·m"), 9, ""),
    ("TW-04", _click("10 N·m", "50 N·m", "0.5 N·m", "380 mm", "3/8 in", "5 N·m"), 8, ""),
    ("TW-05", _click("20 N·m", "200 N·m", "1 N·m", "600 mm", "1/2 in", "10 N·m"), 6, ""),
    ("TW-06", _click("60 N·m", "300 N·m", "2 N·m", "700 mm", "1/2 in", "20 N·m"), 10, ""),
    ("TW-07", _click("100 N·m", "600 N·m", "2 N·m", "1050 mm", "3/4 in", "10 N·m"), 4, ""),
    (
        "TW-08",
        _click("100 N·m", "600 N·m", "5 N·m", "1000 mm", "3/4 in", "50 N·m"),
        -1,
        "overdue: to the test bench",
    ),
    ("TW-09", _click("140 N·m", "760 N·m", "5 N·m", "1400 mm", "3/4 in", "20 N·m"), 8, ""),
    ("TW-10", _click("200 N·m", "1000 N·m", "5 N·m", "1250 mm", "3/4 in", "50 N·m"), 11, ""),
    (
        "TW-11",
        {
            "kind": "electronic wrench",
            "range": ["30 N·m", "340 N·m"],
            "increment": "0.5 N·m",
            "accuracy": 0.02,
            "length": "690 mm",
            "drive": "1/2 in",
        },
        9,
        "counts the angle",
    ),
    (
        "TW-21",
        {
            "kind": "preset driver",
            "name": "driver 8 N·m, green",
            "range": ["8 N·m", "8 N·m"],
            "accuracy": 0.06,
            "drive": "1/4 in",
        },
        6,
        "",
    ),
    (
        "TW-22",
        {
            "kind": "preset driver",
            "name": "driver 38 N·m, blue",
            "range": ["38 N·m", "38 N·m"],
            "accuracy": 0.06,
            "drive": "1/2 in",
        },
        6,
        "",
    ),
)
#: what is no wrench: serial, sort, sheet, note
OTHERS: tuple[tuple[str, str, dict[str, Any], str], ...] = (
    (
        "TT-1",
        "tester",
        {
            "name": "bench tester",
            "range": ["5 N·m", "1000 N·m"],
            "uncertainty": "0.5 %",
            "drive": "3/4 in",
        },
        "against which wrenches are checked",
    ),
    (
        "TM-1",
        "multiplier",
        {
            "name": "multiplier 5:1",
            "ratio": "5:1",
            "efficiency": [0.88, 0.9, 0.92],
            "drive": "1 in",
        },
        "",
    ),
    (
        "TA-1",
        "adapter",
        {"name": "offset adapter 36 mm", "length": "120 mm", "drive": "3/4 in"},
        "",
    ),
    (
        "TG-1",
        "gauge",
        {"name": "angle disc", "measures": "angle, in degrees", "uncertainty": "± 2°"},
        "",
    ),
)
