"""Runs every measurement, or those named on the command line."""

from __future__ import annotations

import sys

from . import browser, core, pictures, plant, record, server, sizes, soak

MEASURES = {
    "core": core.measure,
    "sizes": sizes.measure,
    "browser": browser.measure,
    "server": server.measure,
    "plant": plant.measure,
    "record": record.measure,
}
#: only when asked for by name
OTHERS = {"pictures": pictures.measure}


def main() -> None:
    """Print one line a figure: name, value, wanted."""
    wanted = sys.argv[1:] or list(MEASURES)
    if wanted[0] == "soak":
        minutes = float(wanted[1]) if len(wanted) > 1 else soak.MINUTES
        figures = [soak.measure(minutes)]
    else:
        figures = [{**MEASURES, **OTHERS}[name]() for name in wanted]
    for one in figures:
        for figure, value, goal in one:
            print(f"{figure:<62} {value:>14}   wanted {goal}", flush=True)


main()
