"""One-time codes (TOTP, RFC 6238): the secret is kept encrypted, and each code opens once."""

from __future__ import annotations

import base64
import hashlib
from functools import lru_cache

import pyotp
from cryptography.fernet import Fernet, InvalidToken

from ...settings import read
from ...store.models import Person
from ..context import Ctx

#: a clock may be wrong by so many steps of 30 s
AROUND = 1
_STEP_S = 30


@lru_cache(maxsize=4)
def _box(secret: str) -> Fernet:
    return Fernet(
        base64.urlsafe_b64encode(
            hashlib.sha256(b"orthotorq one-time codes\0" + secret.encode()).digest()
        )
    )


def fresh_secret(person: Person) -> tuple[str, str]:
    """(secret, address for the app that makes codes) of a new secret, which is kept and does not
    count yet."""
    secret = pyotp.random_base32()
    person.totp_secret = _box(read("ORTHOTORQ_SECRET_KEY")).encrypt(secret.encode()).decode()
    person.totp_on, person.totp_step = False, 0
    return secret, pyotp.TOTP(secret).provisioning_uri(name=person.login, issuer_name="Orthotorq")


def code_fits(ctx: Ctx, person: Person, code: str) -> bool:
    """Whether a code is that of now and was not used before."""
    ctx.session.refresh(person, with_for_update=True)
    try:
        secret = _box(read("ORTHOTORQ_SECRET_KEY")).decrypt(person.totp_secret.encode()).decode()
    except InvalidToken:
        # kept under another secret key: the administrator's new link sets the person up anew
        return False
    given, now = "".join(code.split()), int(ctx.now.timestamp()) // _STEP_S
    for step in range(max(now - AROUND, person.totp_step + 1), now + AROUND + 1):
        if pyotp.utils.strings_equal(pyotp.TOTP(secret).generate_otp(step), given):
            person.totp_step = step
            return True
    return False
