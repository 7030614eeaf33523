"""A worker that does what it is asked: answers, hangs, dies, or speaks out of turn."""

import json
import os
import sys
import time


def main() -> None:
    for line in sys.stdin.buffer:
        request = json.loads(line)
        match request["do"]:
            case "hang":
                time.sleep(60)
            case "die":
                os._exit(3)
            case "garble":
                answer = b"this is no answer\n"
            case "promise":
                answer = json.dumps({"bytes": 1000}).encode() + b"\n" + b"too little"
                sys.stdout.buffer.write(answer)
                sys.stdout.buffer.flush()
                os._exit(0)
            case "refuse":
                answer = json.dumps({"error": "not that"}).encode() + b"\n"
            case _:
                sound = str(request["say"]).encode()
                answer = json.dumps({"bytes": len(sound), "pid": os.getpid()}).encode() + b"\n" + sound
        sys.stdout.buffer.write(answer)
        sys.stdout.buffer.flush()


if __name__ == "__main__":
    main()
