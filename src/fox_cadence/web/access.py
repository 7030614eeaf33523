"""Signing in, where Fox Cadence listens on a network: a password, a session in a cookie, few tries."""

import asyncio
from http.cookies import CookieError, SimpleCookie
from typing import Annotated

from fastapi import APIRouter, Form, Request, Response
from fastapi.responses import HTMLResponse, RedirectResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from fox_cadence.store.access import SESSION_DAYS, Access
from fox_cadence.store.tokens import Tokens
from fox_cadence.web.pages import InWorkspace, templates
from fox_cadence.web.problems import Problem
from fox_cadence.web.rates import Rate

router = APIRouter()

COOKIE = "fox_session"
Password = Annotated[str, Form(max_length=1000)]
_OPEN = ("/sign-in", "/static/", "/fonts/", "/review/")
"""What is there without signing in; review pages (review_page.py) look by themselves who may see them."""
TRIES, TRIES_OF_ALL, WITHIN_S = 5, 30, 60.0
_WRONG_TOKENS = 20


class Tries:
    """Wrong passwords of the last minute: five of one address and thirty in all, then everybody waits."""

    def __init__(self) -> None:
        self._of_address, self._of_all = Rate(TRIES, WITHIN_S), Rate(TRIES_OF_ALL, WITHIN_S)

    def wait_s(self, address: str) -> float:
        """How long this address must wait before its next try; 0 when it need not."""
        return max(self._of_address.wait_s(address), self._of_all.wait_s(""))

    def wrong(self, address: str) -> None:
        self._of_address.count(address)
        self._of_all.count("")


class SignedIn:
    """Lets only those through who have signed in, and scripts with a token; others get the page that asks for
    the password."""

    def __init__(self, app: ASGIApp, access: Access, tokens: Tokens) -> None:
        self._app, self._access, self._tokens = app, access, tokens
        self._wrong = Rate(_WRONG_TOKENS, WITHIN_S)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["path"].startswith(_OPEN):
            await self._app(scope, receive, send)
            return
        request = Request(scope)
        scheme, _, script = request.headers.get("authorization", "").partition(" ")
        if scheme.lower() == "bearer":
            answers = await self._of_script(request, script.strip())
            await answers(scope, receive, send)
            return
        if await asyncio.to_thread(self._access.knows, token_of(request)):
            await self._app(scope, receive, send)
            return
        answer: Response = RedirectResponse("/sign-in", 303)
        if scope["path"].startswith(("/api/", "/media/")):
            answer = Problem("signed-out", "You are no longer signed in. Open Fox Cadence again and sign in.")
        await answer(scope, receive, send)

    async def _of_script(self, request: Request, token: str) -> ASGIApp:
        """What answers a script: the application where its token holds."""
        address = request.client.host if request.client else ""
        if self._wrong.wait_s(address) > 0:
            return Problem("too-many", "Too many tokens that do not hold came from here. Wait a minute.")
        if await asyncio.to_thread(self._tokens.knows, token):
            return self._app
        self._wrong.count(address)
        return Problem("signed-out", "This token does not hold. Make one with: fox-cadence token NAME")


def token_of(request: Request) -> str:
    """The token in the cookie of a request; empty without one."""
    try:
        found = SimpleCookie(request.headers.get("cookie", "")).get(COOKIE)
    except CookieError:
        return ""
    return found.value if found else ""


@router.get("/sign-in", response_class=HTMLResponse)
def sign_in_page(request: Request) -> Response:
    """Where the password is asked for."""
    return templates.TemplateResponse(request, "sign_in.html", {"message": ""})


@router.post("/sign-in", response_class=HTMLResponse)
def sign_in(
    request: Request, workspace: InWorkspace, password: Annotated[str, Form(max_length=1000)]
) -> Response:
    """Sign in by the password."""
    tries: Tries = request.app.state.tries
    address = request.client.host if request.client else ""
    wait = tries.wait_s(address)
    if wait > 0:
        message = f"Too many wrong passwords. Try again in {wait:.0f} s."
        return templates.TemplateResponse(request, "sign_in.html", {"message": message}, status_code=429)
    token = workspace.access.sign_in(password)
    if token is None:
        tries.wrong(address)
        message = "That is not the password. It is set in the terminal with: fox-cadence password"
        return templates.TemplateResponse(request, "sign_in.html", {"message": message}, status_code=403)
    answer = RedirectResponse("/", 303)
    answer.set_cookie(
        COOKIE, token, max_age=SESSION_DAYS * 86400, httponly=True, samesite="strict",
        secure=request.url.scheme == "https",
    )  # fmt: skip
    return answer


@router.post("/sign-out")
def sign_out(request: Request, workspace: InWorkspace) -> Response:
    """Sign out."""
    workspace.access.sign_out(token_of(request))
    answer = RedirectResponse("/sign-in", 303)
    answer.delete_cookie(COOKIE)
    return answer
