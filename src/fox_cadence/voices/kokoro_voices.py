"""The natural voices of one model, as a table: what people choose by.

The names are ours. Characters follow from what was measured (`measured.py`); how old a voice sounds nobody
has judged.
"""

from typing import NamedTuple

from fox_cadence.voices.espeak_voices import Gender


class NaturalRow(NamedTuple):
    """A voice of the model: its name with us and there, and how it sounds."""

    name: str
    model_name: str
    gender: Gender
    character: str


_W: Gender = "woman"
_M: Gender = "man"

KOKORO_ROWS: tuple[tuple[str, str, str, tuple[NaturalRow, ...]], ...] = (
    ("en-US", "United States", "gmw/en-US", (
        NaturalRow("Alder", "af_alloy", _W, "low, even"),
        NaturalRow("Brina", "af_aoede", _W, "clear, even, forward"),
        NaturalRow("Cass", "af_bella", _W, "lively"),
        NaturalRow("Delphine", "af_heart", _W, "even, at ease"),
        NaturalRow("Edda", "af_jessica", _W, "high, quick"),
        NaturalRow("Fenna", "af_kore", _W, "low, lively"),
        NaturalRow("Hester", "af_nicole", _W, "whispers, slow"),
        NaturalRow("Ivy", "af_nova", _W, "low, soft"),
        NaturalRow("Juno", "af_river", _W, "even, brisk"),
        NaturalRow("Kit", "af_sarah", _W, "clear, even"),
        NaturalRow("Liv", "af_sky", _W, "low, light"),
        NaturalRow("Abel", "am_adam", _M, "even, firm"),
        NaturalRow("Bram", "am_echo", _M, "low, even"),
        NaturalRow("Cole", "am_eric", _M, "high, quick"),
        NaturalRow("Dorian", "am_fenrir", _M, "lively, full"),
        NaturalRow("Ezra", "am_liam", _M, "lively, brisk"),
        NaturalRow("Finch", "am_michael", _M, "even, slow"),
        NaturalRow("Gideon", "am_onyx", _M, "deep, calm"),
        NaturalRow("Hale", "am_puck", _M, "even, forward"),
        NaturalRow("Jasper", "am_santa", _M, "wide in range, slow"),
    )),
    ("en-GB", "Britain", "gmw/en", (
        NaturalRow("Isolde", "bf_alice", _W, "high, lively"),
        NaturalRow("Maren", "bf_emma", _W, "calm"),
        NaturalRow("Nell", "bf_isabella", _W, "calm, forward"),
        NaturalRow("Quill", "bf_lily", _W, "even, clear"),
        NaturalRow("Rowan", "bm_daniel", _M, "even"),
        NaturalRow("Silas", "bm_fable", _M, "lively, slow"),
        NaturalRow("Tobias", "bm_george", _M, "even, slow"),
        NaturalRow("Ulric", "bm_lewis", _M, "deep, lively"),
    )),
    ("es-ES", "Spain", "roa/es", (
        NaturalRow("Alba", "ef_dora", _W, "even"),
        NaturalRow("Ciro", "em_alex", _M, "even"),
        NaturalRow("Darío", "em_santa", _M, "lively"),
    )),
    ("fr-FR", "France", "roa/fr", (
        NaturalRow("Céleste", "ff_siwis", _W, "calm"),
    )),
    ("it-IT", "Italy", "roa/it", (
        NaturalRow("Fiamma", "if_sara", _W, "calm, forward"),
        NaturalRow("Orso", "im_nicola", _M, "deep, calm"),
    )),
    ("hi", "India", "inc/hi", (
        NaturalRow("Anila", "hf_alpha", _W, "even"),
        NaturalRow("Diya", "hf_beta", _W, "even, quick"),
        NaturalRow("Kiran", "hm_omega", _M, "lively"),
        NaturalRow("Lalit", "hm_psi", _M, "lively, forward"),
    )),
    ("pt-BR", "Brazil", "roa/pt-BR", (
        NaturalRow("Luana", "pf_dora", _W, "even"),
        NaturalRow("Caio", "pm_alex", _M, "even"),
        NaturalRow("Davi", "pm_santa", _M, "lively"),
    )),
    ("ja", "Japan", "jpx/ja", (
        NaturalRow("Akane", "jf_alpha", _W, "high, calm, quick"),
        NaturalRow("Chiyo", "jf_gongitsune", _W, "calm, slow"),
        NaturalRow("Hotaru", "jf_nezumi", _W, "high, calm, slow"),
        NaturalRow("Mio", "jf_tebukuro", _W, "very high, calm"),
        NaturalRow("Ren", "jm_kumo", _M, "deep, calm"),
    )),
    ("cmn", "China", "sit/cmn", (
        NaturalRow("Anqi", "zf_xiaobei", _W, "lively, slow"),
        NaturalRow("Jiayi", "zf_xiaoni", _W, "lively"),
        NaturalRow("Ruolan", "zf_xiaoxiao", _W, "even, forward"),
        NaturalRow("Yueru", "zf_xiaoyi", _W, "high, even"),
        NaturalRow("Haoran", "zm_yunjian", _M, "lively, full"),
        NaturalRow("Mingze", "zm_yunxi", _M, "lively, brisk"),
        NaturalRow("Tianyu", "zm_yunxia", _M, "very high, as a child"),
        NaturalRow("Zhiyuan", "zm_yunyang", _M, "lively, quick"),
    )),
)  # fmt: skip
"""By language: tag, region, the voice of espeak-ng that tells lengths before there is sound, the voices."""
