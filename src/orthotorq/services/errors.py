"""Refusals of use cases: codes with parameters. The web maps them in one place by `status` and
`code`."""

from __future__ import annotations

from typing import Any

from ..core.messages import Refusal, render


class ServiceError(Exception):
    """Base: a code of the table of sentences with its parameters, the field, and what it
    corresponds to."""

    status = 400
    code = "refused"
    #: raised in the helper process it is raised again by who asked
    crosses_processes = True
    #: seconds after which it is worth asking again
    retry_after: int | None = None

    def __init__(self, says: Refusal, field: str | None = None, **params: object) -> None:
        self.says = says
        self.text = render(says, **params)
        self.field = field
        super().__init__(self.text)

    def __reduce__(self) -> tuple[Any, ...]:
        # said in the helper process, raised in this one
        return _restored, (type(self), self.__dict__)

    @classmethod
    def worded(cls, says: Refusal, text: str, field: str | None = None) -> ServiceError:
        """A refusal whose sentence was filled in elsewhere."""
        made = cls.__new__(cls)
        made.says, made.text, made.field = says, text, field
        Exception.__init__(made, text)
        return made


def _restored(kind: type[ServiceError], state: dict[str, Any]) -> ServiceError:
    made = kind.__new__(kind)
    Exception.__init__(made, state["text"])
    made.__dict__.update(state)
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


class NeedsConfirmation(ServiceError):
    """What is asked is possible and unlikely: the person says that it is meant, by sending it
    again as confirmed."""

    status, code = 409, "confirm"


class Refused(ServiceError):
    """A business rule says no."""

    status, code = 409, "refused"


class BadField(ServiceError):
    """A field that cannot be used."""

    status, code = 422, "bad_field"


class TryAgain(TooMany):
    """The same is being looked at in this moment."""

    retry_after = 1


class InHand(TooMany):
    """What this person asked before is still being made."""

    retry_after = 3


class Busy(ServiceError):
    """All places are taken for the moment."""

    status, code = 503, "busy"
    retry_after = 2
