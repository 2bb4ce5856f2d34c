"""Refusals of use cases: codes with parameters. The web maps them in one place by `status` and `code`."""
from __future__ import annotations

from ..core.messages import Refusal, render


class ServiceError(Exception):
    """Base: a code of the table of sentences with its parameters, the field, and what it corresponds to."""

    status = 400
    code = "refused"

    def __init__(self, says: Refusal, field: str | None = None, **params: object) -> None:
        self.says = says
        self.text = render(says, **params)
        self.field = field
        super().__init__(self.text)

    @classmethod
    def worded(cls, says: Refusal, text: str, field: str | None = None) -> ServiceError:
        """A refusal whose sentence was filled in elsewhere."""
        made = cls.__new__(cls)
        made.says, made.text, made.field = says, text, field
        Exception.__init__(made, text)
        return made


class NotFound(ServiceError):
    """What was asked for does not exist."""

    status, code = 404, "not_found"

    def __init__(self, what: str) -> None:
        super().__init__(Refusal.NOT_FOUND, what=what)


class NotSignedIn(ServiceError):
    """Nobody is signed in."""

    status, code = 401, "not_signed_in"


class Forbidden(ServiceError):
    """The person has no role for this."""

    status, code = 403, "forbidden"


class TooMany(ServiceError):
    """Too many tries; wait."""

    status, code = 429, "too_many"


class Refused(ServiceError):
    """A business rule says no."""

    status, code = 409, "refused"


class BadField(ServiceError):
    """A field that cannot be used."""

    status, code = 422, "bad_field"


class Busy(ServiceError):
    """All places are taken for the moment."""

    status, code = 503, "busy"
