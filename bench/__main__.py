"""Runs every measurement, or those named on the command line."""
from __future__ import annotations

import sys

from . import browser, core, pictures, plant, server, sizes

MEASURES = {"core": core.measure, "sizes": sizes.measure, "browser": browser.measure, "server": server.measure,
            "plant": plant.measure}
#: only when asked for by name
OTHERS = {"pictures": pictures.measure}


def main() -> None:
    """Print one line a figure: name, value, wanted."""
    wanted = sys.argv[1:] or list(MEASURES)
    for name in wanted:
        for figure, value, goal in {**MEASURES, **OTHERS}[name]():
            print(f"{figure:<62} {value:>14}   wanted {goal}", flush=True)


main()
