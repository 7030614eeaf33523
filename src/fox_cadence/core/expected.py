"""How long a voicing request will last before it is voiced."""

from fox_cadence.core.length_model import Estimate, Estimator
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.words import words_of


def expected(estimator: Estimator, request: VoicingRequest) -> Estimate:
    """The estimate of the voice's plain reading, with what is directed in the request: local paces, scaled pauses."""
    guess = estimator.estimate(request.text, request.voice_id, request.pace)
    if not request.touches and request.pauses == 1:
        return guess
    letters = [len(word.text) for word in words_of(request.text)]
    whole = sum(letters) or 1
    longer = sum(
        sum(letters[touch.first_word : touch.end_word]) / whole * (1 / touch.pace - 1) for touch in request.touches
    )
    pauses = {word: round(ticks * request.pauses) for word, ticks in guess.pauses.items()}
    return Estimate(round(guess.voiced_ticks * (1 + longer)), pauses, guess.error)
