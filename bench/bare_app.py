"""A bare application of the same framework and server, what a start costs at least: one page, and one
(`/page`) that loads as many bytes of script as it was told. Prints its address."""

import json
import socket
import sys

import uvicorn
from fastapi import FastAPI, Response
from fastapi.responses import HTMLResponse

BYTES = int(sys.argv[1]) if len(sys.argv) > 1 else 0
"""Of script, each a sign that does nothing."""


def page() -> HTMLResponse:
    return HTMLResponse("<!doctype html><title>Bare</title>")


def page_with_script() -> HTMLResponse:
    return HTMLResponse('<!doctype html><title>Bare</title><body><script src="/bare.js"></script></body>')


def script() -> Response:
    done = 'document.body.insertAdjacentHTML("beforeend", "<p id=done>done</p>");'
    return Response(done + ";" * max(0, BYTES - len(done)), media_type="text/javascript")


def main() -> None:
    app = FastAPI()
    app.add_api_route("/", page)
    app.add_api_route("/page", page_with_script)
    app.add_api_route("/bare.js", script)
    listener = socket.create_server(("127.0.0.1", 0))
    print(json.dumps({"address": f"http://127.0.0.1:{listener.getsockname()[1]}/"}), flush=True)
    uvicorn.Server(uvicorn.Config(app, log_level="warning")).run(sockets=[listener])


if __name__ == "__main__":
    main()
