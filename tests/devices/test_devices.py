"""Simulated devices send what they measured in order; a file of raw readings is read whole or not
at all."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orthotorq.core.errors import OrthotorqError
from orthotorq.core.simulation.pull import RATE, Pull, trace_of
from orthotorq.devices.protocol import MESSAGES, Asked
from orthotorq.devices.raw import END, read_raw, write_raw
from orthotorq.devices.simulated import DEVICES

PULL = Pull(120.0, 20.0, 1.5, 40.0)
GOOD = write_raw(trace_of(PULL))


def test_a_stream_carries_every_sample_once_in_about_ten_messages_a_second() -> None:
    trace = trace_of(PULL)
    messages = list(DEVICES["simulated-angle-wrench"].samples(Asked(pull=PULL)))
    assert np.allclose(np.concatenate([m.torque for m in messages]), trace.torque, atol=1e-3)
    assert np.allclose(np.concatenate([m.angle for m in messages]), trace.angle, atol=1e-3)
    assert {len(m.seconds) for m in messages[:-1]} == {RATE // MESSAGES} and RATE >= 50
    assert all(a.seconds[-1] < b.seconds[0] for a, b in pairwise(messages))


@pytest.mark.parametrize("device", DEVICES.values(), ids=DEVICES)
def test_a_device_says_the_same_of_the_same_measurement(device) -> None:
    asked = Asked(PULL, 7.3, 11)
    assert device.outcome(asked) == device.outcome(asked)
    assert list(device.samples(asked)) == list(device.samples(asked))
    assert "simulated" in device.name and device.id in DEVICES


def test_gauges_read_what_their_leaves_allow() -> None:
    for seed in range(20):
        read = DEVICES["simulated-feeler-gauge"].outcome(Asked(figure=0.4, seed=seed)).readings[0]
        value, unit = read.split()
        assert unit == "mm" and round(float(value) / 0.05, 6).is_integer()
        assert (
            0.3
            < float(
                DEVICES["simulated-length-gauge"]
                .outcome(Asked(figure=0.4, seed=seed))
                .readings[0]
                .split()[0]
            )
            < 0.5
        )


def test_a_click_wrench_tells_its_click_alone_and_a_tester_three_peaks() -> None:
    asked = Asked(PULL, 120.0, 3)
    assert not any(m.torque or m.angle for m in DEVICES["simulated-click-wrench"].samples(asked))
    peaks = DEVICES["simulated-tester"].outcome(asked).readings
    assert len(peaks) == 3 and all(abs(float(p.split()[0]) / 120 - 1) < 0.06 for p in peaks)


def test_a_raw_file_is_read_as_it_was_written() -> None:
    trace = trace_of(PULL)
    again = read_raw(GOOD)
    assert np.allclose(again.torque, trace.torque, atol=0.01) and np.allclose(
        again.angle, trace.angle, atol=0.01
    )
    assert np.allclose(again.seconds, trace.seconds, atol=1e-3)


LINES = GOOD.splitlines()


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "begins with"),
        ("seconds,torque_Nm\n", "begins with"),
        ("\n".join(LINES[:-1]), "cut off"),
        ("\n".join(LINES[:60]), "cut off"),
        ("\n".join([*LINES[:8], END]), "samples"),
        (GOOD.replace(LINES[30], "0.1,abc,2"), "Line 31"),
        (GOOD.replace(LINES[30], "0.1,2"), "three numbers"),
        (GOOD.replace(LINES[30], LINES[29]), "time goes back"),
        (GOOD.replace(LINES[30], "0.28,nan,1"), "cannot be"),
        (GOOD.replace(LINES[30], "0.28,1e9,1"), "cannot be"),
        (GOOD.replace(",", ";"), "begins with"),
        ("\n".join([*LINES[:2], *(f"{i},1,1" for i in range(20_001)), END]), "samples"),
    ],
)
def test_what_is_no_pull_is_refused_with_its_line(text: str, says: str) -> None:
    with pytest.raises(OrthotorqError, match=says) as told:
        read_raw(text)
    assert "Nothing of the file is used" in str(told.value)


@given(st.text(max_size=300) | st.binary(max_size=300).map(lambda b: b.decode("latin-1")))
def test_nonsense_is_refused_and_never_breaks(text: str) -> None:
    with pytest.raises(OrthotorqError):
        read_raw(text)
