"""Starts servers fast: the application is imported once, each server is a fork of this process.

A line on stdin is a data folder; the server's own line with its address comes on stdout, its process id
before it.
"""

import os
import signal
import sys

from fox_cadence.cli import main, serving
from fox_cadence.web.app import create_app

IMPORTED = (serving, create_app)
"""What a server needs, before the first fork."""


def fork_for_each() -> None:
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    for line in sys.stdin:
        child = os.fork()
        if child == 0:
            os.setsid()
            signal.signal(signal.SIGCHLD, signal.SIG_DFL)
            print(os.getpid(), flush=True)
            os._exit(main(["serve", "--data", line.rstrip("\n"), "--port", "0", "--json"]))


if __name__ == "__main__":
    fork_for_each()
