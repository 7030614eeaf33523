"""espeak-ng as an engine: talks to its worker process and starts it again when it has died."""

import json
import subprocess
import sys
import threading
from typing import IO, Any

import numpy as np

from fox_cadence.errors import EngineError
from fox_cadence.voices.engine import Abilities, Speech, Utterance

NATURAL_WPM = 175
SLOWEST_WPM, FASTEST_WPM = 80, 450
LONGEST_TEXT = 20_000


class EspeakEngine:
    """Speaks through a worker process. Safe to call from several threads; calls are taken one after the other."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None

    def abilities(self) -> Abilities:
        return Abilities(
            name="espeak-ng",
            pitch=True,
            pitch_range=True,
            word_times=True,
            pace_min=SLOWEST_WPM / NATURAL_WPM,
            pace_max=FASTEST_WPM / NATURAL_WPM,
        )

    def say(self, utterance: Utterance) -> Speech:
        text = _clean(utterance.text)
        if len(text) > LONGEST_TEXT:
            raise EngineError(f"A line of {len(text)} characters is too long to say; {LONGEST_TEXT} is the most.")
        request = {
            "text": text,
            "voice": utterance.voice,
            "wpm": int(np.clip(round(NATURAL_WPM * utterance.pace), SLOWEST_WPM, FASTEST_WPM)),
            "pitch": int(np.clip(utterance.pitch, 0, 99)),
            "range": int(np.clip(utterance.liveliness, 0, 99)),
        }
        with self._lock:
            header, sound = self._ask(request)
        if "error" in header:
            raise EngineError(str(header["error"]))
        samples = (np.frombuffer(sound, dtype="<i2") / 32768).astype(np.float32)
        return Speech(
            samples=samples,
            rate_hz=int(header["rate"]),
            onsets=tuple((int(at), int(sample)) for at, sample in header["words"]),
            phonemes=tuple(int(sample) for sample in header["phonemes"]),
        )

    def phonemes(self, texts: list[str], voice: str) -> list[list[str]]:
        """The phonemes of texts, a string of IPA for each clause, single phonemes joined by `_`.

        Raises:
            EngineError: the engine died, hung, or does not have the voice.
        """
        with self._lock:
            header, _ = self._ask({"texts": [_clean(text)[:LONGEST_TEXT] for text in texts], "voice": voice})
        if "error" in header:
            raise EngineError(str(header["error"]))
        return [[str(clause) for clause in clauses] for clauses in header["phonemes"]]

    def close(self) -> None:
        with self._lock:
            self._stop()

    def _ask(self, request: dict[str, object]) -> tuple[dict[str, Any], bytes]:
        try:
            return self._exchange(request)
        except (OSError, ValueError, EOFError):
            self._stop()  # a worker that died is started again, once
        try:
            return self._exchange(request)
        except (OSError, ValueError, EOFError) as error:
            self._stop()
            raise EngineError("espeak-ng stopped twice while it spoke this line.") from error

    def _exchange(self, request: dict[str, object]) -> tuple[dict[str, Any], bytes]:
        process = self._running()
        stdin, stdout = _pipes(process)
        stdin.write(json.dumps(request).encode() + b"\n")
        stdin.flush()
        line = stdout.readline()
        if not line:
            raise EOFError
        header: dict[str, Any] = json.loads(line)
        count = int(header.get("bytes", 0))
        sound = stdout.read(count)
        if len(sound) != count:
            raise EOFError
        return header, sound

    def _running(self) -> subprocess.Popen[bytes]:
        if self._process is None or self._process.poll() is not None:
            self._stop()
            self._process = subprocess.Popen(
                [sys.executable, "-m", "fox_cadence.voices.espeak_worker"],
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
            )
        return self._process

    def _stop(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.wait()
            for pipe in (self._process.stdin, self._process.stdout):
                if pipe is not None:
                    pipe.close()
            self._process = None


def _pipes(process: subprocess.Popen[bytes]) -> tuple[IO[bytes], IO[bytes]]:
    if process.stdin is None or process.stdout is None:
        raise OSError("the worker has no pipes")
    return process.stdin, process.stdout


def _clean(text: str) -> str:
    """Text as the engine may have it: no control characters (NUL cuts the text), single spaces kept in place."""
    return "".join(" " if ord(sign) < 32 or 127 <= ord(sign) < 160 else sign for sign in text)
