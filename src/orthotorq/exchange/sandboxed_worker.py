"""Work that may hang or swell (sheets, photos) in a process that is killed for it.

Each process that needs it keeps one helper beside it, with the libraries loaded; the helper forks
for each piece of work. A child has a time and a memory of its own, ended by the kernel, and a
folder for what its libraries leave behind, which the helper removes whatever became of the child.
The helper goes when its process does.
"""

from __future__ import annotations

import ctypes
import os
import pickle
import resource
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any, ParamSpec, TypeVar

from ..core.errors import Impossible, Occupied, OrthotorqError
from ..core.messages import Message

#: time on the clock and memory of one piece of work
SECONDS, BYTES = 30.0, 1_500_000_000
#: pieces of work at the same time, and how long the next one waits for its turn
AT_ONCE, TURN_S = 2, 60.0
_PREFIX = "orthotorq-press-"
_ANSWERED, _REFUSED, _FAILED = b"a", b"r", b"f"
#: what the helper keeps of the environment: which instructions the processor's libraries may use
_PROCESSOR_SETTINGS = {
    name: value for name, value in os.environ.items() if name.startswith("OPENBLAS_")
}
#: of unshare(2)
_NEW_NETWORK, _NEW_USER = 0x40000000, 0x10000000
_FORBIDDEN = frozenset(
    {
        "socket.connect",
        "socket.bind",
        "socket.sendto",
        "socket.getaddrinfo",
        "socket.gethostbyname",
        "subprocess.Popen",
        "os.system",
        "os.exec",
        "os.posix_spawn",
    }
)

P = ParamSpec("P")
T = TypeVar("T")

_turns = threading.BoundedSemaphore(AT_ONCE)
_lock = threading.Lock()
_inside = False
_helper: _Helper | None = None


class WorkFailed(RuntimeError):
    """Work that broke in its own process; says its last line."""


class _Helper:
    """The process beside this one, and the socket on which it is handed work."""

    def __init__(self) -> None:
        self.owner = os.getpid()
        self.control, theirs = socket.socketpair()
        with theirs:
            # nothing of this process's environment goes along: no address of a database, no secret,
            # no key
            self.process = subprocess.Popen(
                [
                    sys.executable,
                    "-c",
                    (
                        "from orthotorq.exchange.sandboxed_worker import _serve; "
                        f"_serve({theirs.fileno()})"
                    ),
                ],
                pass_fds=[theirs.fileno()],
                stdin=subprocess.DEVNULL,
                start_new_session=True,
                env={
                    "PATH": os.defpath,
                    "LANG": "C.UTF-8",
                    "PYTHONPATH": os.pathsep.join(filter(None, sys.path)),
                    "TMPDIR": tempfile.gettempdir(),
                    **_PROCESSOR_SETTINGS,
                },
            )

    def hand(self) -> socket.socket:
        """A socket to a new child. Raises OSError where the helper is gone."""
        ours, theirs = socket.socketpair()
        try:
            with theirs:
                socket.send_fds(self.control, [b"w"], [theirs.fileno()])
        except OSError:
            ours.close()
            raise
        return ours

    def end(self) -> None:
        """Let it go."""
        self.control.close()
        with suppress(subprocess.TimeoutExpired):
            self.process.wait(5)


def _hand() -> socket.socket:
    """A socket to a child of this process's helper; one that died is replaced."""
    global _helper
    with _lock:
        # a helper belongs to the process that began it: after a fork there is none
        if _helper is not None and (
            _helper.owner != os.getpid() or _helper.process.poll() is not None
        ):
            _helper.control.close()
            _helper = None
        _helper = _helper or _Helper()
        try:
            return _helper.hand()
        except OSError:
            _helper.end()
            _helper = _Helper()
            return _helper.hand()


@contextmanager
def turn(of: threading.Semaphore) -> Iterator[None]:
    """A turn among those who wait for it. Raises Occupied where others are at it for too long."""
    if not of.acquire(timeout=TURN_S):
        raise Occupied(Message.TOO_BUSY)
    try:
        yield
    finally:
        of.release()


def apart(work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    """What `work` returns, done in a process of its own; both its arguments and its answer have to
    be picklable.

    Raises what `work` refuses (OrthotorqError, a refusal of a use case), Impossible where it takes
    too long or too much memory, Occupied where others are at it for too long, WorkFailed where it
    broke or the helper did not come up.
    """
    if _inside:
        return work(*args, **kwargs)
    with turn(_turns), _hand() as child:
        child.settimeout(SECONDS + 15)
        with suppress(BrokenPipeError, ConnectionResetError):
            child.sendall(pickle.dumps((SECONDS, BYTES, work, args, kwargs)))
            child.shutdown(socket.SHUT_WR)
        said = _all(child)
    if not said:
        if _helper is not None and _helper.process.poll() is not None:
            raise WorkFailed(
                f"the helper ended with {_helper.process.returncode}; its own words are in "
                "the log of the server"
            )
        raise Impossible(Message.TOO_HEAVY, seconds=f"{SECONDS:g}")
    value = pickle.loads(said[1:])
    if said[:1] == _ANSWERED:
        return value  # type: ignore[no-any-return]
    raise value if said[:1] == _REFUSED else WorkFailed(value)


def _all(connection: socket.socket) -> bytes:
    """All that comes until the other side ends; nothing where it broke off or is late."""
    parts = []
    try:
        while part := connection.recv(1 << 16):
            parts.append(part)
    except OSError:
        return b""
    return b"".join(parts)


# what follows runs in the helper and its children


def _serve(number: int) -> None:
    """Fork for each socket that arrives, until the process that began this one is gone."""
    # printing for one person slows down the answers to nobody
    os.nice(10)
    # loaded once, here, where no thread runs: children begin with them. Formulas need the one,
    # sheets the other
    import matplotlib as mpl

    mpl.use("svg")
    import weasyprint  # noqa: F401

    from . import pictures, sheet  # noqa: F401

    _shut_off()
    _sweep()
    home = Path(tempfile.mkdtemp(prefix=f"{_PREFIX}{os.getpid()}-"))
    signal.signal(signal.SIGCHLD, lambda *_: _reap(home))
    control = socket.socket(fileno=number)
    try:
        while True:
            # a read that a signal breaks off goes on by itself
            data, handles, _, _ = socket.recv_fds(control, 1, 1)
            if not data:
                return
            pid = os.fork()
            if pid == 0:
                control.close()
                _child(socket.socket(fileno=handles[0]), home / str(os.getpid()))
            os.close(handles[0])
    finally:
        shutil.rmtree(home, ignore_errors=True)


def _shut_off() -> None:
    """No network from here on, in this process and all that it forks: the kernel has none to
    offer where it lets a process say so, and whatever it lets, Python connects, listens and
    looks up nothing, and starts no other program."""
    libc = ctypes.CDLL(None, use_errno=True)
    with suppress(AttributeError, OSError):
        # a user's namespace of its own is what lets somebody who is not root have a network of
        # their own
        libc.unshare(_NEW_NETWORK) and libc.unshare(_NEW_USER | _NEW_NETWORK)
    sys.addaudithook(_refuse)


def _refuse(event: str, _args: tuple[Any, ...]) -> None:
    if event in _FORBIDDEN:
        raise PermissionError(f"{event} is not for this process")


def _reap(home: Path) -> None:
    """Take leave of children that ended, and of their folders."""
    with suppress(ChildProcessError):
        while (pid := os.waitpid(-1, os.WNOHANG)[0]) != 0:
            shutil.rmtree(home / str(pid), ignore_errors=True)


def _sweep() -> None:
    """Folders of helpers that were killed with all that was theirs."""
    for left in Path(tempfile.gettempdir()).glob(f"{_PREFIX}*"):
        pid = left.name.removeprefix(_PREFIX).partition("-")[0]
        if not Path("/proc", pid).exists():
            shutil.rmtree(left, ignore_errors=True)


def _child(connection: socket.socket, folder: Path) -> None:
    """Do one piece of work and end; never returns."""
    global _inside
    status = 1
    try:
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
        folder.mkdir(mode=0o700)
        tempfile.tempdir = str(folder)
        _inside = True
        # the kernel ends it, whatever library it is in
        signal.setitimer(signal.ITIMER_REAL, SECONDS)
        seconds, most, work, args, kwargs = pickle.loads(_all(connection))
        signal.setitimer(signal.ITIMER_REAL, seconds)
        resource.setrlimit(resource.RLIMIT_AS, (most, most))
        connection.sendall(_said(work, args, kwargs))
        status = 0
    finally:
        os._exit(status)


def _said(work: Callable[..., Any], args: Any, kwargs: Any) -> bytes:
    try:
        return _ANSWERED + pickle.dumps(work(*args, **kwargs))
    except MemoryError:
        return b""
    except Exception as error:  # whatever it is, the process that asked has to hear of it
        if isinstance(error, OrthotorqError) or getattr(error, "crosses_processes", False):
            return _REFUSED + pickle.dumps(error)
        return _FAILED + pickle.dumps(f"{type(error).__name__}: {error}"[:500])
