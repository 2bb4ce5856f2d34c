"""The worker process of the server: a request is taken in whole before a thread sees it.

Threads are few. A client that sends half a header and waits, or stops half-way through an upload, would hold one for as long
as it likes; a handful of such clients would stop the service for everybody. So the loop that watches the sockets takes in
what arrives, with a time for the header and one for the body, and gives a thread complete requests alone.
"""
from __future__ import annotations

import re
import socket
import struct
import time
from concurrent.futures import Future
from contextlib import suppress
from functools import partial
from typing import Any

from gunicorn import http
from gunicorn.workers import gthread

#: a client may take so long for its header, and for its body so long and a second more for every so many bytes
HEADER_S, BODY_S, BODY_BYTES_A_SECOND = 10.0, 20.0, 4096
#: a header is not longer; no body that the application takes is (web/bodies.py)
MOST_HEADER, MOST_BODY = 65_536, 40_000_000
#: all that one worker holds of requests under way
MOST_HELD = 200_000_000
#: an answer that nobody reads is given up after so long
SEND_S = 30
#: a client that is told that its connection ends has so long to read the answer
LEAVE_S = 2.0
READ_BYTES = 262_144

_LENGTH = re.compile(rb"\r\ncontent-length:[ \t]*(\d{1,15})[ \t]*(?=\r\n)", re.I)
_CHUNKED = re.compile(rb"\r\ntransfer-encoding:", re.I)
_EXPECT = re.compile(rb"\r\nexpect:[ \t]*100-continue[ \t]*(?=\r\n)", re.I)


class Refused(Exception):
    """What arrives is not taken; says the status line."""


class Arriving:
    """The bytes of one request on their way: fed by the loop, whole when `feed` says so."""

    def __init__(self, now: float, patience: float) -> None:
        self.data = bytearray()
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
                raise Refused("431 Request Header Fields Too Large")
            return
        header = bytes(self.data[:at + 2])
        if _CHUNKED.search(header):
            raise Refused("411 Length Required")
        length = _LENGTH.search(header)
        size = int(length.group(1)) if length else 0
        # a body that is too large is refused by the application, which reads none of it
        self.end = at + 4 + (size if size <= MOST_BODY else 0)
        self.until = now + BODY_S + size / BODY_BYTES_A_SECOND
        if (asked := _EXPECT.search(header)) is not None:
            # answered here, so that it is not answered again by who gets the whole
            del self.data[asked.start():asked.end()]
            self.end -= asked.end() - asked.start()
            self.wants_continue = len(self.data) < self.end


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
        client.setsockopt(socket.SOL_SOCKET, socket.SO_SNDTIMEO, struct.pack("ll", SEND_S, 0))
        if len(self.arriving) >= self.worker_connections // 2:
            # a flood of half requests puts out the oldest of them, not those who come with a whole one
            self._drop(next(iter(self.arriving)))
        self.nr_conns += 1
        self._await(gthread.TConn(self.cfg, client, address, listener.getsockname()), b"", HEADER_S)

    def _await(self, conn: gthread.TConn, begun: bytes, patience: float) -> None:
        """Watch a connection for its next request, of which some may be there."""
        conn.sock.setblocking(False)
        self.arriving[conn] = Arriving(time.monotonic(), patience)
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
                raise Refused("503 Service Unavailable")
        except Refused as refused:
            with suppress(OSError):
                conn.sock.send(f"HTTP/1.1 {refused}\r\nConnection: close\r\nContent-Length: 0\r\n\r\n".encode())
            self._drop(conn)
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
        """Say that nothing more is sent, and close when the client has read it (RFC 9112, 9.6): waited for by the loop, since
        gunicorn's own way holds up everybody for as long."""
        try:
            conn.sock.shutdown(socket.SHUT_WR)
            conn.sock.setblocking(False)
            self.leaving[conn] = time.monotonic() + LEAVE_S
            self.poller.register(conn.sock, gthread.selectors.EVENT_READ, partial(self._leaves, conn))
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
        for conn in [c for c, a in self.arriving.items() if a.until < now or not (self.alive or a.data)]:
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
