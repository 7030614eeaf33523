"""The application over a data folder, with one more endpoint that does nothing. Prints its address."""

import json
import socket
import sys
from pathlib import Path

import uvicorn

from fox_cadence.actions.workspace import Workspace
from fox_cadence.web.app import create_app


def nothing() -> dict[str, object]:
    return {}


def main() -> None:
    app = create_app(Workspace(Path(sys.argv[1])))
    app.add_api_route("/api/nothing", nothing, methods=["GET", "POST"])
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.bind(("127.0.0.1", 0))
    listener.listen()
    print(json.dumps({"address": f"http://127.0.0.1:{listener.getsockname()[1]}/"}), flush=True)
    uvicorn.Server(uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=1)).run(
        sockets=[listener]
    )


if __name__ == "__main__":
    main()
