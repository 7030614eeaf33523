"""The third sample, "Hikishio": the first one with its narration in Japanese under the English captions. It
is fitted, and not voiced yet."""

from fox_cadence.core.project import Project
from fox_cadence.core.versions import begin_version, with_words

JAPANESE_ID = "hikishio"

_SAID = {
    "l1": "一日に二度、海はマロウ湾を離れる。",
    "l2": "忘れたものは、潮だまりにしまっておく。",
    "l3": "イソギンチャクは、影が差すと拳のように閉じる。",
    "l4": "ヤドカリは貝を一つ試し、もう一つ試し、また最初の貝に戻る。",
    "l5": "ぼくの家はこの溝。自分で彫ったんだ。",
    "l6": "ヒトデはひっくり返されても、自分で起き上がる。ゆっくりと。",
    "l7": "何かが見ている。",
    "l8": "海藻の下で、潮だまり全体が息をひそめる。",
    "l9": "そして海は、忘れ物を取りに戻ってくる。",
    "l10": "これは誰の溝？",
    "n1": "引き潮\nマローベイ",
}
"""What is said, by the lines of the first sample, and what its title shows."""

_VOICES = {"r1": "ja-chiyo", "r2": "ja-ren"}


def in_japanese(project: Project, first_id: str) -> Project:
    """A version of the project that says its words in Japanese; nothing is voiced."""
    begun = begin_version(project, first_id, "Hikishio in Marrow Bay", "ja", _VOICES, shown="first")
    return with_words(begun.changed(give_way="halfway"), _SAID, project)
