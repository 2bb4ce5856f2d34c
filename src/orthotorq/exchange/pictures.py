"""Pictures that people send: opened in a process of its own by named decoders, written anew as
JPEG."""

from __future__ import annotations

import io
import threading
from typing import Literal

from PIL import Image, ImageFile, ImageOps, UnidentifiedImageError

from .sandboxed_worker import apart, turn

MOST_BYTES, MOST_PIXELS, SIDE = 2_000_000, 60_000_000, 2048
#: what cameras and screens make; other formats of the library, some with interpreters behind them,
#: are never opened
FORMATS = ("JPEG", "PNG", "WEBP")
#: how wide a photo is at most on paper
PAPER_SIDE = 900

#: a large photo takes hundreds of megabytes while it is opened: one at a time
_one = threading.BoundedSemaphore(1)

#: what a file can be that is not taken
Unfit = Literal["no picture", "too large"]


def upright(data: bytes) -> bytes | Unfit:
    """A picture as an upright JPEG of at most 2 MB without its metadata, or why not.

    Raises Impossible where it is too heavy, Occupied where others' photos are opened for too long.
    """
    with turn(_one):
        return apart(_upright, data)


def small(data: bytes) -> bytes:
    """One of our own JPEGs as small as paper needs it."""
    return apart(_small, data)


def _upright(data: bytes) -> bytes | Unfit:
    # the library that prints allows half pictures in the whole process as soon as it is loaded
    ImageFile.LOAD_TRUNCATED_IMAGES = False
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                return "too large"
            # a JPEG is made smaller while it is decoded
            opened.draft("RGB", (SIDE, SIDE))
            picture = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return "no picture"
    # comments of the file would be written into the new one
    picture.info = {}
    picture.thumbnail((SIDE, SIDE))
    for quality in (85, 75, 60, 45, 30):
        out = io.BytesIO()
        picture.save(out, "JPEG", quality=quality, optimize=True)
        if out.tell() <= MOST_BYTES:
            break
    return out.getvalue()


def _small(data: bytes) -> bytes:
    with Image.open(io.BytesIO(data), formats=("JPEG",)) as opened:
        opened.thumbnail((PAPER_SIDE, PAPER_SIDE))
        made = io.BytesIO()
        opened.save(made, "JPEG", quality=75)
        return made.getvalue()
