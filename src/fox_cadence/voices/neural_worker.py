"""The process that holds neural voices. Run as a module; speaks JSON lines on stdin and stdout.

A request is `{"text", "voice", "pace", "semitones", "spread", "sounds", "touches"}`; sounds are
`[start, end, ipa]` over characters of the text, touches `[start, end, pace, semitones]`. An answer is a JSON
line with the byte count of the sound that follows it (mono, 16 bit), its rate, and when words and phonemes
begin, or `{"error"}`. With `outline` there is no sound in the answer, but the runs of samples in which it
would be heard.
"""

import json
import os
import sys
from typing import Any

import numpy as np

from fox_cadence.voices.neural import TooLongError, UnknownSoundError, Wanted, foresee, speak
from fox_cadence.voices.neural_voices import voice_named


def _answer(request: dict[str, Any]) -> tuple[dict[str, object], bytes]:
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
    text, wanted = str(request["text"]), _wanted(request)
    try:
        if request.get("outline"):
            seen = foresee(voice, text, wanted)
            return {
                "rate": voice.rate_hz, "runs": seen.runs, "words": seen.words, "phonemes": seen.phonemes
            }, b""  # fmt: skip
        spoken = speak(voice, text, wanted)
    except (TooLongError, UnknownSoundError) as error:
        return {"error": str(error)}, b""
    sound = np.rint(spoken.samples * 32767).astype("<i2").tobytes()
    header: dict[str, object] = {
        "rate": voice.rate_hz, "words": spoken.words, "phonemes": spoken.phonemes, "bytes": len(sound),
    }  # fmt: skip
    return header, sound


def _wanted(request: dict[str, Any]) -> Wanted:
    return Wanted(
        pace=float(request["pace"]),
        semitones=float(request.get("semitones", 0.0)),
        spread=float(request.get("spread", 1.0)),
        sounds=[(int(start), int(end), str(ipa)) for start, end, ipa in request.get("sounds") or ()],
        touches=[
            (int(start), int(end), float(pace), float(semitones))
            for start, end, pace, semitones in request.get("touches") or ()
        ],
    )


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
