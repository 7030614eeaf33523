"""A bare application of the same framework and server, one page: what a start costs at least. Prints its
address."""

import json
import socket

import uvicorn
from fastapi import FastAPI
from fastapi.responses import HTMLResponse


def page() -> HTMLResponse:
    return HTMLResponse("<!doctype html><title>Bare</title>")


def main() -> None:
    app = FastAPI()
    app.add_api_route("/", page)
    listener = socket.create_server(("127.0.0.1", 0))
    print(json.dumps({"address": f"http://127.0.0.1:{listener.getsockname()[1]}/"}), flush=True)
    uvicorn.Server(uvicorn.Config(app, log_level="warning")).run(sockets=[listener])


if __name__ == "__main__":
    main()
