"""What is recorded with an answer beside the answer itself, where the plan asks for it."""

from __future__ import annotations

from typing import Literal

#: the batch of what is fitted or put on, a photo of how it is, the initials of a second person who
#: saw it
AskedFor = Literal["batch", "photo", "second"]
WORDS: dict[AskedFor, str] = {
    "batch": "batch number",
    "photo": "photo",
    "second": "a second person's initials",
}
#: what is typed with the answer; a photo is sent by itself
TYPED: tuple[AskedFor, ...] = ("batch", "second")
#: answers that say that it is done or good: nothing is recorded with the others
WITH = ("done", "good", "value", "still")


def recorded_words(answer: dict[str, object] | None) -> str:
    """What was recorded with an answer, in words.

    >>> recorded_words({"answer": "done", "batch": "G-311", "second": "JK"})
    'batch G-311, second person JK'
    """
    said, known = answer or {}, (("batch", "batch"), ("second", "second person"))
    return ", ".join(f"{words} {said[name]}" for name, words in known if said.get(name))
