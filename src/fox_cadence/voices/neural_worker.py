"""The process that holds neural voices. Run as a module; speaks JSON lines on stdin and stdout.

A request is `{"text", "voice", "pace", "sounds"}`, the last a list of `[start, end, ipa]` over characters of
the text; an answer is a JSON line with the byte count of the sound that follows it (mono, 16 bit), its rate,
and when words and phonemes begin, or `{"error"}`.
"""

import json
import os
import sys

import numpy as np

from fox_cadence.voices.neural import TooLongError, UnknownSoundError, speak
from fox_cadence.voices.neural_voices import voice_named


def _answer(request: dict[str, object]) -> tuple[dict[str, object], bytes]:
    name = str(request["voice"])
    try:
        voice = voice_named(name)
    except KeyError:
        return {"error": f"there is no neural voice {name!r}"}, b""
    except Exception as error:
        reason = str(error).splitlines()[0][:200] if str(error) else type(error).__name__
        return {
            "error": f"The file of this voice can't be used ({reason}). Choose another voice in Cast."
        }, b""
    try:
        sounds = [(int(start), int(end), str(ipa)) for start, end, ipa in request.get("sounds") or ()]  # type: ignore[attr-defined]
        spoken = speak(voice, str(request["text"]), float(str(request["pace"])), sounds)
    except (TooLongError, UnknownSoundError) as error:
        return {"error": str(error)}, b""
    sound = np.rint(spoken.samples * 32767).astype("<i2").tobytes()
    header: dict[str, object] = {
        "rate": voice.rate_hz, "words": spoken.words, "phonemes": spoken.phonemes, "bytes": len(sound),
    }  # fmt: skip
    return header, sound


def main() -> None:
    answers = os.fdopen(os.dup(sys.stdout.fileno()), "wb")
    # what a library prints must not stand among the answers
    os.dup2(sys.stderr.fileno(), sys.stdout.fileno())
    for line in sys.stdin.buffer:
        header, sound = _answer(json.loads(line))
        answers.write(json.dumps(header).encode() + b"\n" + sound)
        answers.flush()


if __name__ == "__main__":
    main()
