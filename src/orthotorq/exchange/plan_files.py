"""Plans as a zip of JSON files: what it holds, read with bounds on files and bytes."""

from __future__ import annotations

import io
import struct
import zipfile
import zlib
from typing import Literal

from ..core.documents.read import MAX_BYTES
from .sandboxed_worker import apart

MOST_FILES, MOST_TOTAL = 5000, 200_000_000
#: how files in a zip may be packed: what every program writes
_PACKED = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)
#: what a file can be that is not taken
Unfit = Literal["empty", "too much", "no zip"]


def count_plans(data: bytes) -> int | Unfit:
    """How many plans a zip holds, looked at in a process of its own, or why it is not taken."""
    return apart(_count, data)


def _count(data: bytes) -> int | Unfit:
    found = plan_files(data)
    return found if isinstance(found, str) else len(found)


def plan_files(data: bytes) -> list[tuple[str, bytes]] | Unfit:
    """Name and text of every JSON file of a zip, or why it is not taken."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            infos = [
                i
                for i in archive.infolist()
                if not i.is_dir() and i.filename.lower().endswith(".json")
            ]
            if not infos:
                return "empty"
            if len(infos) > MOST_FILES or sum(i.file_size for i in infos) > MOST_TOTAL:
                return "too much"
            if any(i.compress_type not in _PACKED for i in infos):
                return "no zip"
            # one byte more than allowed is enough to refuse a file: the rest is not unpacked
            return [(i.filename[:200], archive.open(i).read(MAX_BYTES + 1)) for i in infos]
    except (
        zipfile.BadZipFile,
        zlib.error,
        RuntimeError,
        NotImplementedError,
        EOFError,
        OSError,
        ValueError,
        struct.error,
    ):
        return "no zip"
