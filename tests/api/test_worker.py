"""The worker of the server: clients that never finish what they begin hold up nobody."""

from __future__ import annotations

import http.client
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from gunicorn.config import Config

from orthotorq.web.worker import (
    BODY_S,
    HEADER_S,
    MOST_BODY,
    MOST_HEADER,
    Arriving,
    Refused,
    body_length,
)
from tests.browser.conftest import free_port

APP = """
import time
def app(environ, start):
    if environ["PATH_INFO"] == "/reads-on":
        environ["gunicorn.socket"].recv(1)
    body = environ["wsgi.input"].read() if environ["PATH_INFO"] == "/echo" else b"fine"
    start("200 OK", [("Content-Length", str(len(body)))])
    return [body]
"""


@pytest.fixture(scope="module")
def port(tmp_path_factory: pytest.TempPathFactory) -> Iterator[int]:
    """One worker with two threads over a small application."""
    folder, made = tmp_path_factory.mktemp("worker"), free_port()
    (folder / "small.py").write_text(APP)
    server = subprocess.Popen(
        [
            Path(sys.executable).with_name("gunicorn"),
            "--bind",
            f"127.0.0.1:{made}",
            "--worker-class",
            "orthotorq.web.worker.PatientWorker",
            "--threads",
            "2",
            "--keep-alive",
            "5",
            "--no-control-socket",
            "--worker-connections",
            "60",
            "--log-level",
            "error",
            "small:app",
        ],
        cwd=folder,
        start_new_session=True,
        env={**os.environ, "PYTHONPATH": os.pathsep.join([*sys.path, str(folder)])},
    )
    for _ in range(200):
        try:
            if ask(made)[0] == 200:
                break
        except OSError:
            time.sleep(0.05)
    yield made
    os.killpg(server.pid, signal.SIGTERM)
    server.wait(30)


def ask(port: int, path: str = "/", body: bytes | None = None, **headers: str) -> tuple[int, bytes]:
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=8)
    try:
        connection.request("POST" if body else "GET", path, body, headers)
        answer = connection.getresponse()
        return answer.status, answer.read()
    finally:
        connection.close()


def begun(port: int, sent: bytes) -> socket.socket:
    client = socket.create_connection(("127.0.0.1", port), timeout=8)
    client.sendall(sent)
    return client


def until(client: socket.socket, words: bytes, times: int = 1) -> bool:
    """Whether an answer comes that has the words so many times."""
    got = b""
    while got.count(words) < times and (more := client.recv(1000)):
        got += more
    return got.count(words) == times


HALF_HEADER = b"GET / HTTP/1.1\r\nHost: x\r\nX-Some: "
HALF_BODY = b"POST /echo HTTP/1.1\r\nHost: x\r\nContent-Length: 100000\r\n\r\nbegun"


@pytest.mark.parametrize("half", [HALF_HEADER, HALF_BODY, b""])
def test_many_who_send_half_a_request_hold_up_nobody(port: int, half: bytes) -> None:
    clients = [begun(port, half) for _ in range(80)]
    for _ in range(5):
        assert ask(port) == (200, b"fine")
    for one in clients:
        one.close()


def test_many_who_wait_for_the_end_of_a_connection_hold_up_nobody(port: int) -> None:
    clients = [
        begun(port, b"GET / HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n") for _ in range(20)
    ]
    began = time.monotonic()
    assert ask(port) == (200, b"fine")
    assert all(until(one, b"fine") for one in clients)
    # closed one after the other, each with a wait of two seconds, it would be forty
    assert time.monotonic() - began < 20
    for one in clients:
        one.close()


def test_a_request_in_pieces_and_several_on_one_connection_are_answered(port: int) -> None:
    client = begun(port, b"POST /echo HTTP/1.1\r\nHost: x\r\nContent-")
    for piece in (b"Length: 5\r\n", b"\r\nab", b"cde"):
        time.sleep(0.05)
        client.sendall(piece)
    assert until(client, b"abcde")
    client.sendall(b"GET / HTTP/1.1\r\nHost: x\r\n\r\nGET / HTTP/1.1\r\nHost: x\r\n\r\n")
    assert until(client, b"fine", 2)
    client.close()


def test_a_large_body_comes_whole_and_one_that_waits_to_be_let_in_is(port: int) -> None:
    body = os.urandom(3_000_000)
    assert ask(port, "/echo", body) == (200, body)
    with begun(
        port, b"POST /echo HTTP/1.1\r\nHost: x\r\nContent-Length: 3\r\nExpect: 100-continue\r\n\r\n"
    ) as client:
        assert client.recv(1000).startswith(b"HTTP/1.1 100")
        client.sendall(b"abc")
        assert until(client, b"abc")


def post(*headers: str) -> bytes:
    """The header of a POST whose body never comes."""
    return "\r\n".join(["POST /echo HTTP/1.1", "Host: x", *headers, "", ""]).encode()


@pytest.mark.parametrize(
    ("sent", "status"),
    [
        (post("Transfer-Encoding: chunked"), b"411"),
        (post("Transfer-Encoding: chunked", "Content-Length: 5"), b"400"),
        (post("Transfer-Encoding: gzip"), b"400"),
        (post("Content-Length: -5"), b"400"),
        (post("Content-Length: +5"), b"400"),
        (post("Content-Length: 5, 5"), b"400"),
        (post("Content-Length: 0x10"), b"400"),
        (post("Content-Length:"), b"400"),
        (post("Content-Length : 5"), b"400"),
        (post("Content-Length: 5", "Content-Length: 5"), b"400"),
        (post("Content-Length: 5", "content-length: 500"), b"400"),
        (post("X: a", " Content-Length: 5"), b"400"),
        (post("X: a\nContent-Length: 5"), b"400"),
        (post(f"Content-Length: {MOST_BODY + 1}"), b"413"),
        (post("Content-Length: 99999999999999999999"), b"413"),
        (b"GET / HTTP/1.1\r\nX: " + b"x" * (MOST_HEADER + 1), b"431"),
        (b"\x16\x03\x01\r\n\r\n", b"400"),
    ],
)
def test_what_is_not_taken_is_refused_at_once(port: int, sent: bytes, status: bytes) -> None:
    # more of them than threads: none may have got as far as one of those
    clients = [begun(port, sent) for _ in range(6)]
    answers = [client.recv(1000) for client in clients]
    assert {answer.split(b" ")[1] for answer in answers} == {status}
    assert all(b"application/problem+json" in answer for answer in answers)
    assert ask(port) == (200, b"fine")
    for client in clients:
        client.close()


@pytest.mark.parametrize("length", ["0000000000000100", "000000000000000000000000100000", "100000"])
def test_a_length_is_read_as_the_parser_of_the_threads_reads_it(port: int, length: str) -> None:
    clients = [begun(port, post(f"Content-Length: {length}")) for _ in range(20)]
    assert ask(port) == (200, b"fine")
    whole = "00000000000000005"
    with begun(port, post(f"Content-Length: {whole}") + b"abcde") as client:
        assert until(client, b"abcde")
    for client in clients:
        client.close()


def test_a_thread_that_reads_on_all_the_same_is_given_back(port: int) -> None:
    clients = [begun(port, b"GET /reads-on HTTP/1.1\r\nHost: x\r\n\r\n") for _ in range(2)]
    assert ask(port) == (200, b"fine")
    for one in clients:
        one.close()


def test_many_who_are_refused_hold_up_nobody(port: int) -> None:
    clients = [begun(port, post("Content-Length: no")) for _ in range(80)]
    began = time.monotonic()
    assert ask(port) == (200, b"fine")
    # one after the other, each with the wait of a connection that says nothing, it would be minutes
    assert time.monotonic() - began < 20
    for one in clients:
        one.close()


def test_time_for_a_header_begins_with_its_first_byte_and_for_a_body_grows_with_it() -> None:
    def length_of(header: bytes) -> int:
        return body_length(Config(), ("127.0.0.1", 1), header)

    one = Arriving(100.0, 30.0, length_of)
    assert one.until == 130.0
    assert not one.feed(b"POST / HTTP/1.1\r\n", 110.0)
    assert one.until == 110.0 + HEADER_S
    assert not one.feed(b"Content-Length: 4096000\r\n\r\n", 112.0)
    assert one.until == 112.0 + BODY_S + 1000
    assert one.feed(b"x" * 4_096_000, 300.0)
    with pytest.raises(Refused, match="413"):
        Arriving(0.0, 30.0, length_of).feed(
            b"POST / HTTP/1.1\r\nContent-Length: %d\r\n\r\n" % (MOST_BODY + 1), 0.0
        )
    with pytest.raises(Refused, match="431"):
        Arriving(0.0, 30.0, length_of).feed(b"x" * (MOST_HEADER + 1), 0.0)
