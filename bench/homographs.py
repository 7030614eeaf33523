"""Fifty English words that are said in one of two ways, each in a sentence that leaves no doubt which."""

from fox_cadence.voices.homographs import said_otherwise
from fox_cadence.voices.ipa_signs import HIBARI_SIGNS, rewritten
from fox_cadence.voices.kokoro import KokoroVoice

SENTENCES = """
I read it yesterday.|read|ɹɛd
I will read it tomorrow.|read|ɹid
She has read every sign.|read|ɹɛd
They live by the sea.|live|lɪv
A live crab moved.|live|lIv
The wind is cold.|wind|wɪnd
Wind the rope twice.|wind|wInd
A tear ran down her face.|tear|tɪɹ
Do not tear the net.|tear|tɛɹ
The lead pipe is heavy.|lead|lɛd
They lead the way.|lead|lid
Please close the gate.|close|klOz
We are close to the shore.|close|klOs
The use of rope is old.|use|jus
We use rope here.|use|juz
They record every wave.|record|ɹəkɔɹd
The record is broken.|record|ɹɛkəɹd
We present the winner.|present|pɹizɛnt
The present is wrapped.|present|pɹɛzᵊnt
I object to that.|object|əbʤɛkt
The object is small.|object|ɑbʤəkt
He is content with it.|content|kəntɛnt
The content is new.|content|kɑntɛnt
They desert the ship.|desert|dəzɜɹt
The desert is dry.|desert|dɛzəɹt
They produce oil.|produce|pɹədus
Fresh produce is cheap.|produce|pɹOdus
Her voice will project far.|project|pɹəʤɛkt
The project is late.|project|pɹɑʤɛkt
We permit no dogs.|permit|pəɹmɪt
Show the permit.|permit|pɜɹmɪt
I refuse to go.|refuse|ɹəfjuz
The refuse smells.|refuse|ɹɛfjus
They conduct a test.|conduct|kəndʌkt
Their conduct was fine.|conduct|kɑndʌkt
Muscles contract quickly.|contract|kəntɹækt
Sign the contract.|contract|kɑntɹækt
Prices increase each year.|increase|ɪnkɹis
An increase of ten.|increase|ɪnkɹis
We perfect the recipe.|perfect|pəɹfɛkt
A perfect day.|perfect|pɜɹfəkt
Wait a minute.|minute|mɪnət
A minute crab hides.|minute|mInut
The wound is deep.|wound|wund
He wound the clock.|wound|wWnd
A dove sat there.|dove|dʌv
He dove into the pool.|dove|dOv
Where does it go?|does|dʌz
We separate the shells.|separate|sɛpəɹAt
Two separate pools.|separate|sɛpəɹət
"""
"""A sentence, the word, and its symbols in American English without stress."""

_STRESS = str.maketrans("", "", "ˈˌ")


def wrong(rules: bool = True) -> list[tuple[str, str, str]]:
    """The sentences in which the word is said in the other way: sentence, word, and how it is said; with our
    `rules`, or as the model's own front end has it."""
    voice = KokoroVoice("af_heart")
    found: list[tuple[str, str, str]] = []
    for row in SENTENCES.strip().splitlines():
        sentence, word, wanted = row.split("|")
        words = sentence.split()
        place = next(n for n, each in enumerate(words) if each.strip(".,?").lower() == word)
        ours = said_otherwise(words).get(place) if rules else None
        flat = "".join(sign for part in voice.symbols(sentence) for sign in part)
        said = rewritten(ours, HIBARI_SIGNS) if ours else flat.split()[place].strip(".,?")
        said = said.translate(_STRESS)
        if said != wanted:
            found.append((sentence, word, said))
    return found


def rows() -> list[str]:
    found = wrong()
    count = len(SENTENCES.strip().splitlines())
    alone = count - len(wrong(rules=False))
    return [
        f"{count - len(found)} of {count} as they are meant, {alone} by its own front end; otherwise:",
        *(f"- {sentence} ({word}: /{said}/)" for sentence, word, said in found),
    ]
