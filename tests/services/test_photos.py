"""Which files are opened as photos, and what is kept of them."""

from __future__ import annotations

import io
import time
from concurrent.futures import ThreadPoolExecutor

import pytest
from PIL import Image

from orthotorq.core.errors import Occupied
from orthotorq.exchange import pictures, sandboxed_worker
from orthotorq.exchange.pictures import FORMATS, SIDE
from orthotorq.services.errors import BadField
from orthotorq.services.running.photos import reencode


def picture(kind: str, size: tuple[int, int] = (64, 48)) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, (180, 90, 20)).save(out, kind)
    return out.getvalue()


@pytest.mark.parametrize("kind", FORMATS)
def test_what_cameras_make_is_kept_as_a_jpeg_without_its_comments(kind: str) -> None:
    kept = Image.open(io.BytesIO(reencode(picture(kind))))
    assert (
        kept.format == "JPEG"
        and kept.size == (64, 48)
        and "comment" not in kept.info
        and not kept.getexif()
    )


@pytest.mark.parametrize("kind", ["EPS", "BMP", "GIF", "TIFF", "PPM", "TGA", "PDF"])
def test_other_formats_of_the_library_are_never_opened(kind: str) -> None:
    with pytest.raises(BadField):
        reencode(picture(kind))


def test_a_large_photo_is_made_smaller_and_a_huge_one_is_refused_before_it_is_decoded() -> None:
    assert max(Image.open(io.BytesIO(reencode(picture("JPEG", (5000, 3000))))).size) == SIDE
    with pytest.raises(BadField, match="too"):
        reencode(picture("PNG", (9000, 9000)))


def test_a_comment_in_a_jpeg_does_not_stay() -> None:
    out = io.BytesIO()
    Image.new("RGB", (40, 40)).save(out, "JPEG", comment=b"taken by somebody at home")
    assert b"somebody" in out.getvalue() and b"somebody" not in reencode(out.getvalue())


def test_large_photos_are_opened_one_at_a_time(monkeypatch: pytest.MonkeyPatch) -> None:
    inside, most = [0], [0]

    def opened(_work: object, data: bytes) -> bytes:
        inside[0] += 1
        most[0] = max(most[0], inside[0])
        time.sleep(0.05)
        inside[0] -= 1
        return data

    monkeypatch.setattr(pictures, "apart", opened)
    with ThreadPoolExecutor(4) as pool:
        assert list(pool.map(pictures.upright, [b"a", b"b", b"c", b"d"])) == [
            b"a",
            b"b",
            b"c",
            b"d",
        ]
    assert most == [1]
    monkeypatch.setattr(sandboxed_worker, "TURN_S", 0.01)
    with pictures._one, pytest.raises(Occupied):
        pictures.upright(b"a")
    assert pictures.upright(b"e") == b"e"
