"""Work in a process of its own: what it answers, refuses, and what becomes of it when it hangs, swells or dies."""
from __future__ import annotations

import os
import signal
import subprocess
import sys
import tempfile
import textwrap
import threading
import time
from pathlib import Path

import pytest

from orthotorq.core.errors import Impossible, Occupied, in_range
from orthotorq.exchange import apart as module
from orthotorq.exchange.apart import WorkFailed, apart
from orthotorq.exchange.pdf import to_pdf


def gone(path: Path) -> bool:
    """Whether a folder goes within a few seconds."""
    until = time.monotonic() + 10
    while path.exists() and time.monotonic() < until:
        time.sleep(0.05)
    return not path.exists()


def test_the_answer_comes_back_from_another_process() -> None:
    assert apart(len, b"seven b") == 7
    assert apart(os.getpid) not in (os.getpid(), apart(os.getpid))


def test_what_work_refuses_is_said_here_as_it_was_there() -> None:
    with pytest.raises(Impossible) as found:
        apart(in_range, 7.0, 0.0, 1.0, "a share from 0 to 1")
    assert "a share from 0 to 1" in str(found.value) and found.value.params["value"] == "7"
    with pytest.raises(WorkFailed, match="ValueError"):
        apart(int, "abc")


def test_work_that_hangs_is_ended_and_says_so(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "SECONDS", 0.5)
    begun = time.monotonic()
    with pytest.raises(Impossible, match="longer than"):
        apart(time.sleep, 60)
    assert time.monotonic() - begun < 20


def test_work_that_swells_is_ended_and_the_next_one_is_done() -> None:
    with pytest.raises(Impossible, match="memory"):
        apart(bytearray, 3_000_000_000)
    assert apart(len, b"abc") == 3


def test_a_child_that_is_killed_is_no_answer_and_a_helper_that_is_killed_is_replaced() -> None:
    with pytest.raises(Impossible):
        apart(signal.raise_signal, signal.SIGKILL)
    helper = module._helper
    assert helper is not None
    os.kill(helper.process.pid, signal.SIGKILL)
    helper.process.wait(10)
    assert apart(len, b"abcd") == 4


@pytest.mark.parametrize("killed", [False, True])
def test_what_a_library_leaves_behind_goes_with_its_process(killed: bool) -> None:
    folder = Path(apart(tempfile.mkdtemp))
    assert module._PREFIX in str(folder) and gone(folder)
    if killed:
        # all of it at once, as when a machine is short of memory: the next helper sweeps
        helper = module._helper
        assert helper is not None
        (left := folder.parents[1] / "left").mkdir()
        os.kill(helper.process.pid, signal.SIGKILL)
        helper.process.wait(10)
        assert left.exists()
        assert apart(len, b"a") == 1
        assert gone(left)


def test_a_helper_that_does_not_come_up_is_said_to_be_broken_and_not_the_work_too_heavy(monkeypatch: pytest.MonkeyPatch) -> None:
    class Broken(module._Helper):
        def __init__(self) -> None:
            monkeypatch.setattr(sys, "executable", "/bin/false")
            super().__init__()
            self.process.wait(10)

    monkeypatch.setattr(module, "_helper", None)
    monkeypatch.setattr(module, "_Helper", Broken)
    with pytest.raises((WorkFailed, OSError)):
        apart(len, b"a")
    assert module._helper is not None
    module._helper.end()
    monkeypatch.setattr(module, "_helper", None)


def test_who_waits_too_long_for_a_turn_is_told_so(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "TURN_S", 0.01)
    monkeypatch.setattr(module, "_turns", threading.BoundedSemaphore(1))
    with module._turns, pytest.raises(Occupied, match="printing or sending photos"):
        apart(len, b"a")


def test_a_helper_goes_with_the_process_that_it_is_beside() -> None:
    code = """
        import os, sys
        from orthotorq.exchange import apart
        print(apart.apart(os.getppid), flush=True)
        os.kill(os.getpid(), 9)
        """
    done = subprocess.run([sys.executable, "-c", textwrap.dedent(code)], capture_output=True, text=True, timeout=60)
    assert gone(Path("/proc", done.stdout.strip()))


def test_printing_loads_no_setting_of_pages_into_the_process_that_asks() -> None:
    code = ("import sys; from orthotorq.exchange.pdf import to_pdf; "
            "print(len(to_pdf('<p>a</p>')) > 900, 'weasyprint' in sys.modules)")
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=60, check=True)
    assert done.stdout.split() == ["True", "False"]
    assert to_pdf("<p>a</p>").startswith(b"%PDF")
