"""The worker process of the server: a request is taken in whole before a thread sees it.

Threads are few. A client that sends half a header and waits, or stops half-way through an upload,
would hold one for as long as it likes; a handful of such clients would stop the service for
everybody. So the loop that watches the sockets takes in what arrives, with a time for the header
and one for the body, and gives a thread complete requests alone.
"""

from __future__ import annotations

import json
import re
import socket
import struct
import time
from collections.abc import Callable
from concurrent.futures import Future
from contextlib import suppress
from functools import partial
from typing import Any

from gunicorn import http
from gunicorn.http.body import LengthReader
from gunicorn.workers import gthread

#: a client may take so long for its header, and for its body so long and a second more for every so
#: many bytes
HEADER_S, BODY_S, BODY_BYTES_A_SECOND = 10.0, 20.0, 4096
#: a header is not longer; no body that the application takes is (web/request_limits.py)
MOST_HEADER, MOST_BODY = 65_536, 40_000_000
#: all that one worker holds of requests under way
MOST_HELD = 200_000_000
#: an answer that nobody reads is given up after so long
SEND_S = 30
#: a thread has all of a request before it begins; should it read on all the same, it waits no
#: longer
READ_S = 5
#: a client that is told that its connection ends has so long to read the answer
LEAVE_S = 2.0
READ_BYTES = 262_144

_EXPECT = re.compile(rb"\r\nexpect:[ \t]*100-continue[ \t]*(?=\r\n)", re.I)


class Refused(Exception):
    """What arrives is not taken: the status line, and a sentence."""

    def __init__(self, status: str, text: str) -> None:
        super().__init__(status)
        self.status, self.text = status, text


class Arriving:
    """The bytes of one request on their way: fed by the loop, whole when `feed` says so."""

    def __init__(self, now: float, patience: float, length_of: Callable[[bytes], int]) -> None:
        self.data = bytearray()
        self.length_of = length_of
        #: where the request ends, once the header is there
        self.end: int | None = None
        self.until = now + patience
        self.wants_continue = False

    def feed(self, data: bytes, now: float) -> bool:
        """Take in bytes; whether the request is whole. Raises Refused."""
        if not self.data and data:
            self.until = now + HEADER_S
        self.data += data
        if self.end is None:
            self._header(now)
        return self.end is not None and len(self.data) >= self.end

    def _header(self, now: float) -> None:
        at = self.data.find(b"\r\n\r\n")
        if at < 0:
            if len(self.data) > MOST_HEADER:
                raise Refused(
                    "431 Request Header Fields Too Large", "The header of the request is too long."
                )
            return
        size = self.length_of(bytes(self.data[: at + 4]))
        if size > MOST_BODY:
            raise Refused(
                "413 Content Too Large",
                f"That is too large: at most {MOST_BODY / 1e6:g} MB are taken. Nothing was saved.",
            )
        self.end = at + 4 + size
        self.until = now + BODY_S + size / BODY_BYTES_A_SECOND
        if (asked := _EXPECT.search(self.data, 0, at + 2)) is not None:
            # answered here, so that it is not answered again by who gets the whole
            del self.data[asked.start() : asked.end()]
            self.end -= asked.end() - asked.start()
            self.wants_continue = len(self.data) < self.end


def body_length(cfg: Any, client: Any, header: bytes) -> int:
    """Bytes of the body behind a header, by the parser that a thread will read the request with.

    Two readings of one length are how a thread comes to wait for bytes that nobody counted. Raises
    Refused for what the parser refuses, and for a body in chunks.
    """
    try:
        reader = next(http.get_parser(cfg, [header], client)).body.reader
    except Exception:  # whatever its parser raises, a request that it refuses is none
        raise Refused(
            "400 Bad Request",
            "The header of the request cannot be read, or its length is not clear.",
        ) from None
    if not isinstance(reader, LengthReader):
        raise Refused(
            "411 Length Required", "A request says how long its body is; it is not sent in chunks."
        )
    return int(reader.length)


def _answer(refused: Refused) -> bytes:
    """The answer to what is refused, as problem details (RFC 9457) like every other."""
    status, _, title = refused.status.partition(" ")
    body = json.dumps(
        {
            "type": "about:blank",
            "title": title,
            "status": int(status),
            "detail": refused.text,
            "code": f"http_{status}",
            "request_id": "",
            "errors": [],
        }
    ).encode()
    return (
        f"HTTP/1.1 {refused.status}\r\nConnection: close\r\nContent-Type: "
        "application/problem+json\r\n"
        f"Content-Length: {len(body)}\r\n\r\n"
    ).encode() + body


class PatientWorker(gthread.ThreadWorker):
    """gunicorn's worker of threads, whose threads never wait for a client to send."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        #: connections without a whole request, oldest first
        self.arriving: dict[gthread.TConn, Arriving] = {}
        #: answered for the last time, with the time when they are closed at the latest
        self.leaving: dict[gthread.TConn, float] = {}

    def accept(self, listener: socket.socket) -> None:
        """Take a connection and wait for its request, in no thread."""
        try:
            client, address = listener.accept()
        except OSError:
            return
        for waits, seconds in ((socket.SO_SNDTIMEO, SEND_S), (socket.SO_RCVTIMEO, READ_S)):
            client.setsockopt(socket.SOL_SOCKET, waits, struct.pack("ll", seconds, 0))
        if len(self.arriving) >= self.worker_connections // 2:
            # a flood of half requests puts out the oldest of them, not those who come with a whole
            # one
            self._drop(next(iter(self.arriving)))
        self.nr_conns += 1
        self._await(gthread.TConn(self.cfg, client, address, listener.getsockname()), b"", HEADER_S)

    def _await(self, conn: gthread.TConn, begun: bytes, patience: float) -> None:
        """Watch a connection for its next request, of which some may be there."""
        conn.sock.setblocking(False)
        self.arriving[conn] = Arriving(
            time.monotonic(), patience, partial(body_length, self.cfg, conn.client)
        )
        self.poller.register(conn.sock, gthread.selectors.EVENT_READ, partial(self._arrives, conn))
        if begun:
            self._take(conn, begun)

    def _arrives(self, conn: gthread.TConn, _client: socket.socket) -> None:
        if conn not in self.arriving:
            return
        try:
            data = conn.sock.recv(READ_BYTES)
        except BlockingIOError:
            return
        except OSError:
            data = b""
        if data:
            self._take(conn, data)
        else:
            self._drop(conn)

    def _take(self, conn: gthread.TConn, data: bytes) -> None:
        arriving = self.arriving[conn]
        try:
            whole = arriving.feed(data, time.monotonic())
            if not whole and sum(len(a.data) for a in self.arriving.values()) > MOST_HELD:
                raise Refused(
                    "503 Service Unavailable",
                    "Too much is being sent at once. Nothing was kept; try again.",
                )
        except Refused as refused:
            del self.arriving[conn]
            self.poller.unregister(conn.sock)
            with suppress(OSError):
                conn.sock.send(_answer(refused))
            self._leave(conn)
            return
        if arriving.wants_continue:
            arriving.wants_continue = False
            with suppress(OSError):
                conn.sock.send(b"HTTP/1.1 100 Continue\r\n\r\n")
        if whole:
            self._hand_over(conn)

    def _hand_over(self, conn: gthread.TConn) -> None:
        """Give a whole request to a thread."""
        data = bytes(self.arriving.pop(conn).data)
        self.poller.unregister(conn.sock)
        if not conn.initialized:
            conn.initialized = True
            conn.parser = http.get_parser(self.cfg, conn.sock, conn.client)
        conn.parser.unreader.unread(data)
        self.enqueue_req(conn)

    def finish_request(self, conn: gthread.TConn, fs: Future[Any]) -> None:
        """After an answer: wait for the next request of the connection, or close it."""
        try:
            goes_on = not fs.cancelled() and fs.result() and self.alive
            if goes_on:
                self._await(conn, conn.parser.unreader.take_buffered(), self.cfg.keepalive)
                return
        except Exception:
            self.log.exception("A connection could not be kept.")
        self.arriving.pop(conn, None)
        self._leave(conn)

    def _leave(self, conn: gthread.TConn) -> None:
        """Say that nothing more is sent, and close when the client has read it (RFC 9112, 9.6):
        waited for by the loop, since gunicorn's own way holds up everybody for as long."""
        if len(self.leaving) >= self.worker_connections // 4:
            # those who are told no do not keep others from being let in
            self._drop(next(iter(self.leaving)))
        try:
            conn.sock.shutdown(socket.SHUT_WR)
            conn.sock.setblocking(False)
            self.leaving[conn] = time.monotonic() + LEAVE_S
            self.poller.register(
                conn.sock, gthread.selectors.EVENT_READ, partial(self._leaves, conn)
            )
        except (OSError, KeyError, ValueError):
            self._drop(conn)

    def _leaves(self, conn: gthread.TConn, _client: socket.socket) -> None:
        with suppress(OSError):
            if conn.sock.recv(READ_BYTES):
                return
        self._drop(conn)

    def murder_pending(self) -> None:
        """Close those who let us wait; when the worker ends, those too who have sent nothing."""
        now = time.monotonic()
        for conn in [
            c for c, a in self.arriving.items() if a.until < now or not (self.alive or a.data)
        ]:
            self._drop(conn)
        for conn in [c for c, until in self.leaving.items() if until < now]:
            self._drop(conn)

    def _drop(self, conn: gthread.TConn) -> None:
        self.arriving.pop(conn, None)
        self.leaving.pop(conn, None)
        with suppress(OSError, KeyError, ValueError):
            self.poller.unregister(conn.sock)
        self.nr_conns -= 1
        conn.close()
