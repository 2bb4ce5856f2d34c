"""A small sign-on of the plant as a stand-in: OpenID Connect with code, PKCE and an id token that
it signs."""

from __future__ import annotations

import base64
import hashlib
import threading
import time
from typing import Any
from urllib.parse import urlencode

from flask import Flask, Response, jsonify, redirect, request
from joserfc import jwt
from joserfc.jwk import RSAKey
from werkzeug.serving import make_server

CLIENT, SECRET = "orthotorq", "a secret between two machines"


class Provider:
    """Answers on loopback until `close`; who signs in is set by `subject` and `login`, what goes
    wrong by `spoil`."""

    def __init__(self) -> None:
        self.subject, self.login, self.spoil = "7", "tam", ""
        #: where the name is said: in the signed answer, or at userinfo alone, as most do; further
        #: claims there
        self.named_in, self.more = "token", dict[str, str]()
        #: what was asked of the browser last, and when somebody last gave a password here
        self.last: dict[str, str] = {}
        self.entered_at = int(time.time()) - 3600
        self.key, self.other = (RSAKey.generate_key(2048, {"kid": "k1"}) for _ in range(2))
        self.asked: dict[str, dict[str, str]] = {}
        app = Flask("provider")
        app.add_url_rule("/.well-known/openid-configuration", "about", self._about)
        app.add_url_rule("/authorize", "authorize", self._authorize)
        app.add_url_rule("/token", "token", self._token, methods=["POST"])
        app.add_url_rule("/userinfo", "userinfo", self._userinfo)
        app.add_url_rule("/keys", "keys", lambda: jsonify(keys=[self.key.as_dict(private=False)]))
        self.server = make_server("127.0.0.1", 0, app, threaded=True)
        self.issuer = f"http://127.0.0.1:{self.server.port}"
        threading.Thread(target=self.server.serve_forever, daemon=True).start()

    def close(self) -> None:
        """End it."""
        self.server.shutdown()
        self.server.server_close()

    def _about(self) -> Response:
        at = self.issuer
        return jsonify(
            issuer=at,
            authorization_endpoint=f"{at}/authorize",
            token_endpoint=f"{at}/token",
            jwks_uri=f"{at}/keys",
            userinfo_endpoint=f"{at}/userinfo",
            end_session_endpoint=f"{at}/leave",
            id_token_signing_alg_values_supported=["RS256"],
            response_types_supported=["code"],
        )

    def _authorize(self) -> Any:
        code = f"code-{len(self.asked)}"
        self.asked[code] = self.last = dict(request.args)
        if request.args.get("prompt") == "login" and self.spoil != "not asked":
            self.entered_at = int(time.time())
        said = {"error": "access_denied"} if self.spoil == "denied" else {"code": code}
        return redirect(
            f"{request.args['redirect_uri']}?{urlencode({**said, 'state': request.args['state']})}"
        )

    def _token(self) -> Any:
        asked = self.asked.pop(request.form["code"])
        proof = (
            base64.urlsafe_b64encode(
                hashlib.sha256(request.form["code_verifier"].encode()).digest()
            )
            .rstrip(b"=")
            .decode()
        )
        basic = base64.b64encode(f"{CLIENT}:{SECRET}".encode()).decode()
        if proof != asked["code_challenge"] or request.headers["Authorization"] != f"Basic {basic}":
            return jsonify(error="invalid_grant"), 400
        now = int(time.time())
        claims = {
            "iss": self.issuer,
            "sub": self.subject,
            "aud": CLIENT,
            "iat": now,
            "exp": now + 60,
            "nonce": "another" if self.spoil == "nonce" else asked["nonce"],
        }
        if self.named_in == "token":
            claims["preferred_username"] = self.login
        if "max_age" in asked:
            claims["auth_time"] = self.entered_at
        key = self.other if self.spoil == "key" else self.key
        return jsonify(
            access_token="a",
            token_type="Bearer",
            expires_in=300,
            id_token=jwt.encode({"alg": "RS256", "kid": "k1"}, claims, key),
        )

    def _userinfo(self) -> Response:
        named = {"preferred_username": self.login} if self.named_in == "userinfo" else {}
        return jsonify(
            sub="another" if self.spoil == "userinfo" else self.subject, **named, **self.more
        )
