"""`python -m orthotorq.cli`."""

from . import main

main()
