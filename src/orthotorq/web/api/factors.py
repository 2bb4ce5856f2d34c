"""A PIN for shared tablets, and one-time codes."""

from __future__ import annotations

from typing import Annotated, Literal

from flask import Response
from pydantic import BaseModel, Field, RootModel

from ...exchange.codes import qr_address
from ...services.accounts.factors import (
    Factors,
    begin_codes,
    confirm_codes,
    end_codes,
    own_factors,
    set_pin,
)
from ...services.errors import BadField
from ..operation import operation
from .helpers import answer, blueprint

api = blueprint("factors", "A PIN for shared tablets, and one-time codes")

Password = Annotated[str, Field(max_length=300)]
Digits = Annotated[str, Field(max_length=20)]


class FactorsOut(RootModel[Factors]):
    """What the one who is signed in has set up."""


class PinIn(BaseModel):
    """A PIN, or none, with the password."""

    password: Password
    pin: Digits


class CodesIn(BaseModel):
    """Begin or end, with the password, or confirm, with a first code."""

    act: Literal["begin", "confirm", "end"]
    password: Password = ""
    code: Digits = ""


class CodesOut(BaseModel):
    """What is set up now; after a beginning what the app is given, as text and as a picture."""

    codes: bool
    secret: str | None = None
    picture: str | None = None


@api.get("/factors", responses={"200": FactorsOut})
def get_factors() -> Response:
    """What the one who is signed in has set up."""
    with operation() as ctx:
        return answer(FactorsOut(own_factors(ctx)))


@api.put("/pin", responses={"200": FactorsOut})
def put_pin(body: PinIn) -> Response:
    """Set one's PIN, or take it away."""
    with operation() as ctx:
        wrong = set_pin(ctx, body.password, body.pin)
        found = own_factors(ctx)
    if wrong is not None:
        raise wrong
    return answer(FactorsOut(found))


@api.post("/codes", responses={"200": CodesOut})
def post_codes(body: CodesIn) -> Response:
    """Set one-time codes up, turn them on, or off."""
    made = None
    with operation() as ctx:
        if body.act == "begin":
            made = begin_codes(ctx, body.password)
        wrong = made if isinstance(made, BadField) else None
        if body.act == "confirm":
            wrong = confirm_codes(ctx, body.code)
        if body.act == "end":
            wrong = end_codes(ctx, body.password)
        found = own_factors(ctx)
    if wrong is not None:
        raise wrong
    if made is None or isinstance(made, BadField):
        return answer(CodesOut(codes=found.codes))
    return answer(CodesOut(codes=found.codes, secret=made.secret, picture=qr_address(made.uri)))
