"""How a program gets a token: metadata, the exchange of a code, introspection and the end of a token (RFC 8414, 6749, 7662, 7009; IndieAuth)."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from fastapi import APIRouter, Request
from starlette.responses import JSONResponse, RedirectResponse, Response

from mobbet.actions import programs
from mobbet.actions.own_address import server_of
from mobbet.actions.programs import Grant
from mobbet.actions.workshop import Workshop
from mobbet.core.programs import PROFILE, SCOPES, UNUSED_SECONDS, AskedWrongly
from mobbet.store import people
from mobbet.store.blogs import Blog
from mobbet.web.programs import addresses as to_programs
from mobbet.web.programs.door import OPEN_TO_BROWSERS, bearer_of, preflight
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell.fields import Text
from mobbet.web.shell.session import Here

router = APIRouter()
NEVER_KEPT = {"cache-control": "no-store", "pragma": "no-cache", **OPEN_TO_BROWSERS}


def _below(blog: Blog, name: str) -> str:
    return f"{blog.home.rstrip('/')}/~/{name}"


@router.get(to_programs.program_metadata.route)
def metadata(blog: OfBlog) -> Response:
    """What a program has to know to ask."""
    return JSONResponse(
        {
            "issuer": blog.home, "authorization_endpoint": _below(blog, "allow"), "token_endpoint": _below(blog, "token"),
            "introspection_endpoint": _below(blog, "introspect"), "revocation_endpoint": _below(blog, "revoke"),
            "revocation_endpoint_auth_methods_supported": ["none"], "scopes_supported": list(SCOPES), "response_types_supported": ["code"],
            "grant_types_supported": ["authorization_code"], "code_challenge_methods_supported": ["S256"],
            "authorization_response_iss_parameter_supported": True,
            "micropub": _below(blog, "micropub"), "service": _below(blog, "atom"),
        },
        headers=OPEN_TO_BROWSERS,
    )  # fmt: skip


@router.get(to_programs.program_allow.route)
def lead_to_screen(request: Request, here: Here, blog: OfBlog) -> Response:
    """Leads a person to the screen of the application, where they are signed in."""
    asked = {**dict(request.query_params), "blog": blog.slug}
    return RedirectResponse(f"{server_of(here, blog)}{to_programs.allow_program()}?{urlencode(asked)}", 303)


def _exchange(here: Workshop, blog: Blog, form: dict[str, str], wants_token: bool) -> Response:
    try:
        if form["grant_type"] != "authorization_code":
            raise AskedWrongly(
                "unsupported_grant_type",
                "A code is exchanged here (grant_type=authorization_code), and nothing else.",
            )
        token, code, of = programs.redeem(
            here, form["code"], form["client_id"], form["redirect_uri"], form["code_verifier"], wants_token
        )
        if wants_token and not token:
            raise AskedWrongly(
                "invalid_grant",
                "This code has no scope, so that there is no token; it only says who somebody is.",
            )
    except AskedWrongly as error:
        return JSONResponse({"error": error.error, "error_description": str(error)}, 400, headers=NEVER_KEPT)
    body: dict[str, Any] = {"me": of.home}
    if token:
        body |= {
            "access_token": token,
            "token_type": "Bearer",
            "scope": code.scopes,
            "expires_in": UNUSED_SECONDS,
        }
    if PROFILE in code.scopes.split():
        person = people.by_id(here.db, code.person_id)
        body["profile"] = {"name": person.name if person else "", "url": of.home}
    return JSONResponse(body, headers=NEVER_KEPT)


@router.post(to_programs.program_token.route)
def exchange(
    here: Here, blog: OfBlog, grant_type: Text = "", code: Text = "", client_id: Text = "", redirect_uri: Text = "", code_verifier: Text = "",
    action: Text = "", token: Text = "",
) -> Response:  # fmt: skip
    """A token for a code; or, as older programs do it, the end of a token (`action=revoke`)."""
    if action == "revoke":
        programs.revoke(here, token)
        return Response(status_code=200, headers=NEVER_KEPT)
    form = {
        "grant_type": grant_type,
        "code": code,
        "client_id": client_id,
        "redirect_uri": redirect_uri,
        "code_verifier": code_verifier,
    }
    return _exchange(here, blog, form, wants_token=True)


@router.post(to_programs.program_allow.route)
def identify(
    here: Here, blog: OfBlog, grant_type: Text = "authorization_code", code: Text = "", client_id: Text = "", redirect_uri: Text = "",
    code_verifier: Text = "",
) -> Response:  # fmt: skip
    """Who somebody is, for a code, without a token."""
    form = {
        "grant_type": grant_type,
        "code": code,
        "client_id": client_id,
        "redirect_uri": redirect_uri,
        "code_verifier": code_verifier,
    }
    return _exchange(here, blog, form, wants_token=False)


@router.get(to_programs.program_token.route)
def verify(request: Request, here: Here, blog: OfBlog) -> Response:
    """What the token of the head of the request is good for."""
    grant = programs.grant_of(here, bearer_of(request))
    if grant is None or grant.blog.id != blog.id:
        return JSONResponse(
            {"error": "unauthorized", "error_description": "This token is not good (any more)."},
            401,
            headers={**NEVER_KEPT, "www-authenticate": "Bearer"},
        )
    return JSONResponse(_about(grant), headers=NEVER_KEPT)


def _about(grant: Grant) -> dict[str, Any]:
    return {"me": grant.blog.home, "client_id": grant.token.client, "scope": grant.token.scopes}


@router.post(to_programs.program_introspect.route)
def introspect(request: Request, here: Here, blog: OfBlog, token: Text = "") -> Response:
    """Whether a token is good, for a program that shows one itself."""
    if programs.grant_of(here, bearer_of(request)) is None:
        return JSONResponse(
            {"error": "unauthorized", "error_description": "Show a good token in the head of the request."},
            401,
            headers={**NEVER_KEPT, "www-authenticate": "Bearer"},
        )
    grant = programs.grant_of(here, token)
    if grant is None or grant.blog.id != blog.id:
        return JSONResponse({"active": False}, headers=NEVER_KEPT)
    made = grant.token
    return JSONResponse(
        {"active": True, **_about(grant), "iat": made.made_at, "exp": made.used_at + UNUSED_SECONDS},
        headers=NEVER_KEPT,
    )


@router.post(to_programs.program_revoke.route)
def revoke(here: Here, blog: OfBlog, token: Text = "") -> Response:
    """Ends a token; says the same of one that is not good."""
    programs.revoke(here, token)
    return Response(status_code=200, headers=NEVER_KEPT)


@router.options(to_programs.program_token.route)
@router.options(to_programs.program_metadata.route)
@router.options(to_programs.program_revoke.route)
@router.options(to_programs.program_introspect.route)
def may_ask() -> Response:
    return preflight()
