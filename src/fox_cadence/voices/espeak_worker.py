"""The process that holds the espeak-ng library. Run as a module; speaks JSON lines on stdin and stdout.

The library is neither thread safe nor repeatable within one process, so this process initialises it, does
nothing else, and forks a child for each utterance. The child sets every parameter, because they survive a
change of voice. A request is `{"text", "voice", "wpm", "pitch", "range", "marked"}`; where `marked` is true,
parts of the text in double square brackets are phonemes in the library's own letters. An answer is a JSON
line with the byte count of the sound that follows it (mono, 16 bit), or `{"error"}`. A request `{"texts",
"voice"}` is answered with the phonemes of each text (`{"phonemes"}`), a clause a string, in IPA with `_`
between them. A request `{"letters", "voice"}` is answered with the IPA of each of those letters of the
library (`{"ipa"}`), empty where it is not just one sound of the voice.
"""

import ctypes
import json
import os
import resource
import select
import signal
import sys
import time

import espeakng_loader

SYNCHRONOUS = 2
INIT_PHONEME_EVENTS, INIT_PHONEME_IPA, INIT_DONT_EXIT = 0x1, 0x2, 0x8000
CHARS_UTF8, PHONEMES = 1, 0x100
RATE, VOLUME, PITCH, RANGE, WORD_GAP = 1, 2, 3, 4, 7
EVENT_END, EVENT_WORD, EVENT_PHONEME = 0, 1, 7
TIME_LIMIT_S = 30.0
MEMORY_LIMIT_BYTES = 1 << 30
LONGEST_SPEECH_S = 300


class _Id(ctypes.Union):
    _fields_ = (("number", ctypes.c_int), ("name", ctypes.c_char_p), ("string", ctypes.c_char * 8))


class _Event(ctypes.Structure):
    _fields_ = (
        ("type", ctypes.c_int),
        ("unique_identifier", ctypes.c_uint),
        ("text_position", ctypes.c_int),
        ("length", ctypes.c_int),
        ("audio_position", ctypes.c_int),
        ("sample", ctypes.c_int),
        ("user_data", ctypes.c_void_p),
        ("id", _Id),
    )


_Callback = ctypes.CFUNCTYPE(
    ctypes.c_int, ctypes.POINTER(ctypes.c_short), ctypes.c_int, ctypes.POINTER(_Event)
)


def _load() -> tuple[ctypes.CDLL, int]:
    library = ctypes.CDLL(espeakng_loader.get_library_path())
    data = str(espeakng_loader.get_data_path()).encode()
    rate = library.espeak_Initialize(
        SYNCHRONOUS, 0, data, INIT_PHONEME_EVENTS | INIT_PHONEME_IPA | INIT_DONT_EXIT
    )
    if rate <= 0:
        raise OSError("espeak-ng could not be initialised: its data was not found")
    return library, rate


def _ipa(event: _Event) -> str:
    """The sound of a phoneme without its stress; empty where it is a pause."""
    return bytes(event.id.string).decode("utf-8", "replace").strip("ˈˌ")


def _flags(request: dict[str, object]) -> int:
    return CHARS_UTF8 | PHONEMES if request.get("marked") else CHARS_UTF8


def _speak(library: ctypes.CDLL, rate: int, request: dict[str, object]) -> tuple[dict[str, object], bytes]:
    sound = bytearray()
    words: list[tuple[int, int]] = []
    phonemes: list[tuple[str, int]] = []
    cap = rate * LONGEST_SPEECH_S * 2

    def on_sound(wave: object, count: int, events: object) -> int:
        if wave and count > 0:
            sound.extend(ctypes.string_at(wave, count * 2))  # type: ignore[arg-type]
        index = 0
        while events[index].type != EVENT_END:  # type: ignore[index]
            event = events[index]  # type: ignore[index]
            if event.type == EVENT_WORD:
                words.append((event.text_position - 1, event.sample))
            elif event.type == EVENT_PHONEME and (ipa := _ipa(event)):
                phonemes.append((ipa, event.sample))
            index += 1
        return 1 if len(sound) > cap else 0

    callback = _Callback(on_sound)
    library.espeak_SetSynthCallback(callback)
    # otherwise its noise follows the clock and no take could be made again
    library.espeak_ng_SetRandSeed(ctypes.c_long(1))
    if library.espeak_SetVoiceByName(str(request["voice"]).encode()) != 0:
        return {"error": f"espeak-ng has no voice {request['voice']!r}"}, b""
    for parameter, value in (
        (RATE, request["wpm"]), (VOLUME, 100), (PITCH, request["pitch"]), (RANGE, request["range"]),
        (WORD_GAP, 0),
    ):  # fmt: skip
        library.espeak_SetParameter(parameter, value, 0)
    text = str(request["text"]).encode()
    buffer = ctypes.create_string_buffer(text)
    status = library.espeak_Synth(buffer, len(text) + 1, 0, 1, 0, _flags(request), None, None)
    library.espeak_Synchronize()
    if status != 0:
        return {"error": f"espeak-ng refused the text (status {status})"}, b""
    if len(sound) > cap:
        return {"error": f"the line would last longer than {LONGEST_SPEECH_S} s"}, b""
    return {"rate": rate, "words": words, "phonemes": phonemes, "bytes": len(sound)}, bytes(sound)


IPA, SEPARATED = 0x02, ord("_") << 8


def _phonemes(library: ctypes.CDLL, request: dict[str, object]) -> tuple[dict[str, object], bytes]:
    if library.espeak_SetVoiceByName(str(request["voice"]).encode()) != 0:
        return {"error": f"espeak-ng has no voice {request['voice']!r}"}, b""
    library.espeak_TextToPhonemes.restype = ctypes.c_char_p
    answers: list[list[str]] = []
    texts = request["texts"]
    for text in texts if isinstance(texts, list) else []:
        buffer = ctypes.create_string_buffer(str(text).encode())
        place = ctypes.c_void_p(ctypes.addressof(buffer))
        clauses: list[str] = []
        while place.value:
            found = library.espeak_TextToPhonemes(ctypes.byref(place), CHARS_UTF8, IPA | SEPARATED)
            clauses.append((found or b"").decode("utf-8", "replace"))
        answers.append(clauses)
    return {"phonemes": answers}, b""


def _letters(library: ctypes.CDLL, request: dict[str, object]) -> tuple[dict[str, object], bytes]:
    names: list[str] = []

    def on_sound(wave: object, count: int, events: object) -> int:
        index = 0
        while events[index].type != EVENT_END:  # type: ignore[index]
            event = events[index]  # type: ignore[index]
            if event.type == EVENT_PHONEME:
                names.append(_ipa(event))
            index += 1
        return 0

    callback = _Callback(on_sound)
    library.espeak_SetSynthCallback(callback)
    if library.espeak_SetVoiceByName(str(request["voice"]).encode()) != 0:
        return {"error": f"espeak-ng has no voice {request['voice']!r}"}, b""
    found: list[str] = []
    letters = request["letters"]
    for letter in letters if isinstance(letters, list) else []:
        names.clear()
        text = f"[[{letter}]]".encode()
        buffer = ctypes.create_string_buffer(text)
        library.espeak_Synth(buffer, len(text) + 1, 0, 1, 0, CHARS_UTF8 | PHONEMES, None, None)
        library.espeak_Synchronize()
        sounds = [name for name in names if name]
        found.append(sounds[0] if len(sounds) == 1 else "")
    return {"ipa": found}, b""


_ANSWERS = (("texts", _phonemes), ("letters", _letters))


def _answer(library: ctypes.CDLL, rate: int, request: dict[str, object]) -> tuple[dict[str, object], bytes]:
    for name, answer in _ANSWERS:
        if name in request:
            return answer(library, request)
    return _speak(library, rate, request)


def _in_child(library: ctypes.CDLL, rate: int, request: dict[str, object]) -> tuple[bytes, bytes]:
    """Speak in a forked child under limits; the header line and the sound."""
    reader, writer = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(reader)
        resource.setrlimit(resource.RLIMIT_CPU, (int(TIME_LIMIT_S), int(TIME_LIMIT_S)))
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY_LIMIT_BYTES, MEMORY_LIMIT_BYTES))
        header, sound = _answer(library, rate, request)
        with os.fdopen(writer, "wb") as out:
            out.write(json.dumps(header).encode() + b"\n" + sound)
        os._exit(0)
    os.close(writer)
    answer = bytearray()
    deadline = time.monotonic() + TIME_LIMIT_S
    with os.fdopen(reader, "rb", buffering=0) as source:
        while True:
            ready, _, _ = select.select([source], [], [], max(0.0, deadline - time.monotonic()))
            if not ready:
                os.kill(child, signal.SIGKILL)
                os.waitpid(child, 0)
                return json.dumps(
                    {"error": f"espeak-ng did not answer within {TIME_LIMIT_S:.0f} s"}
                ).encode(), b""
            block = source.read(1 << 16)
            if not block:
                break
            answer += block
    _, status = os.waitpid(child, 0)
    if status != 0 or b"\n" not in answer:
        return json.dumps({"error": f"espeak-ng stopped while it spoke (status {status})"}).encode(), b""
    header_line, _, sound = bytes(answer).partition(b"\n")
    return header_line, sound


def main() -> None:
    library, rate = _load()
    for line in sys.stdin.buffer:
        header, sound = _in_child(library, rate, json.loads(line))
        sys.stdout.buffer.write(header + b"\n" + sound)
        sys.stdout.buffer.flush()


if __name__ == "__main__":
    main()
