"""The natural voices of one model, as a table: what people choose by, and what was measured of each.

The names are ours. The figures are from the sample lines said by each voice: median pitch (Hz), its spread
(standard deviation in semitones), phonemes a second, and loudness (LUFS). Characters follow from them; how
old a voice sounds nobody has judged.
"""

from typing import NamedTuple

from fox_cadence.voices.espeak_voices import Gender


class NaturalRow(NamedTuple):
    """A voice of the model: its name with us and there, and what was measured of it."""

    name: str
    model_name: str
    gender: Gender
    character: str
    pitch_hz: int
    spread_st: float
    phonemes_s: float
    lufs: int


_W: Gender = "woman"
_M: Gender = "man"

KOKORO_ROWS: tuple[tuple[str, str, str, tuple[NaturalRow, ...]], ...] = (
    ("en-US", "United States", "gmw/en-US", (
        NaturalRow("Alder", "af_alloy", _W, "low, even", 147, 3.7, 12.2, -22),
        NaturalRow("Brina", "af_aoede", _W, "clear, even, forward", 185, 3.9, 13.3, -18),
        NaturalRow("Cass", "af_bella", _W, "lively", 192, 4.5, 12.5, -22),
        NaturalRow("Delphine", "af_heart", _W, "even, at ease", 200, 3.3, 12.8, -22),
        NaturalRow("Edda", "af_jessica", _W, "high, quick", 211, 3.7, 14.5, -22),
        NaturalRow("Fenna", "af_kore", _W, "low, lively", 152, 4.3, 13.2, -19),
        NaturalRow("Hester", "af_nicole", _W, "whispers, slow", 145, 3.4, 8.3, -22),
        NaturalRow("Ivy", "af_nova", _W, "low, soft", 157, 3.4, 13.1, -26),
        NaturalRow("Juno", "af_river", _W, "even, brisk", 178, 3.5, 14.1, -21),
        NaturalRow("Kit", "af_sarah", _W, "clear, even", 198, 4.0, 12.8, -21),
        NaturalRow("Liv", "af_sky", _W, "low, light", 158, 3.9, 12.7, -24),
        NaturalRow("Abel", "am_adam", _M, "even, firm", 117, 4.0, 13.1, -19),
        NaturalRow("Bram", "am_echo", _M, "low, even", 108, 4.0, 12.2, -22),
        NaturalRow("Cole", "am_eric", _M, "high, quick", 162, 3.6, 14.5, -21),
        NaturalRow("Dorian", "am_fenrir", _M, "lively, full", 140, 4.7, 13.0, -19),
        NaturalRow("Ezra", "am_liam", _M, "lively, brisk", 128, 4.5, 13.8, -22),
        NaturalRow("Finch", "am_michael", _M, "even, slow", 114, 3.9, 11.6, -23),
        NaturalRow("Gideon", "am_onyx", _M, "deep, calm", 85, 2.5, 13.4, -22),
        NaturalRow("Hale", "am_puck", _M, "even, forward", 112, 3.9, 13.8, -18),
        NaturalRow("Jasper", "am_santa", _M, "wide in range, slow", 166, 6.3, 11.2, -22),
    )),
    ("en-GB", "Britain", "gmw/en", (
        NaturalRow("Isolde", "bf_alice", _W, "high, lively", 209, 4.5, 12.3, -21),
        NaturalRow("Maren", "bf_emma", _W, "calm", 178, 2.8, 12.8, -20),
        NaturalRow("Nell", "bf_isabella", _W, "calm, forward", 201, 2.6, 12.3, -17),
        NaturalRow("Quill", "bf_lily", _W, "even, clear", 182, 4.1, 12.3, -21),
        NaturalRow("Rowan", "bm_daniel", _M, "even", 124, 3.2, 12.3, -21),
        NaturalRow("Silas", "bm_fable", _M, "lively, slow", 115, 5.2, 10.8, -22),
        NaturalRow("Tobias", "bm_george", _M, "even, slow", 140, 3.8, 10.5, -22),
        NaturalRow("Ulric", "bm_lewis", _M, "deep, lively", 86, 4.3, 11.1, -23),
    )),
    ("es-ES", "Spain", "roa/es", (
        NaturalRow("Alba", "ef_dora", _W, "even", 168, 3.8, 14.9, -24),
        NaturalRow("Ciro", "em_alex", _M, "even", 129, 4.1, 14.7, -23),
        NaturalRow("Darío", "em_santa", _M, "lively", 126, 5.3, 14.7, -22),
    )),
    ("fr-FR", "France", "roa/fr", (
        NaturalRow("Céleste", "ff_siwis", _W, "calm", 202, 2.8, 11.3, -19),
    )),
    ("it-IT", "Italy", "roa/it", (
        NaturalRow("Fiamma", "if_sara", _W, "calm, forward", 218, 2.5, 14.9, -15),
        NaturalRow("Orso", "im_nicola", _M, "deep, calm", 87, 2.4, 12.5, -20),
    )),
    ("hi", "India", "inc/hi", (
        NaturalRow("Anila", "hf_alpha", _W, "even", 199, 3.4, 10.8, -16),
        NaturalRow("Diya", "hf_beta", _W, "even, quick", 183, 3.7, 12.3, -18),
        NaturalRow("Kiran", "hm_omega", _M, "lively", 124, 4.3, 10.5, -17),
        NaturalRow("Lalit", "hm_psi", _M, "lively, forward", 133, 4.5, 10.4, -18),
    )),
    ("pt-BR", "Brazil", "roa/pt-BR", (
        NaturalRow("Luana", "pf_dora", _W, "even", 177, 3.0, 13.6, -23),
        NaturalRow("Caio", "pm_alex", _M, "even", 130, 3.7, 13.1, -23),
        NaturalRow("Davi", "pm_santa", _M, "lively", 133, 4.6, 13.5, -23),
    )),
    ("ja", "Japan", "jpx/ja", (
        NaturalRow("Akane", "jf_alpha", _W, "high, calm, quick", 270, 2.9, 12.6, -20),
        NaturalRow("Chiyo", "jf_gongitsune", _W, "calm, slow", 226, 2.9, 10.3, -21),
        NaturalRow("Hotaru", "jf_nezumi", _W, "high, calm, slow", 240, 2.0, 9.8, -20),
        NaturalRow("Mio", "jf_tebukuro", _W, "very high, calm", 333, 2.7, 10.4, -21),
        NaturalRow("Ren", "jm_kumo", _M, "deep, calm", 93, 2.8, 11.5, -21),
    )),
    ("cmn", "China", "sit/cmn", (
        NaturalRow("Anqi", "zf_xiaobei", _W, "lively, slow", 229, 4.1, 11.7, -20),
        NaturalRow("Jiayi", "zf_xiaoni", _W, "lively", 220, 4.1, 13.4, -19),
        NaturalRow("Ruolan", "zf_xiaoxiao", _W, "even, forward", 222, 3.5, 13.3, -17),
        NaturalRow("Yueru", "zf_xiaoyi", _W, "high, even", 289, 3.4, 13.9, -19),
        NaturalRow("Haoran", "zm_yunjian", _M, "lively, full", 124, 5.1, 13.9, -21),
        NaturalRow("Mingze", "zm_yunxi", _M, "lively, brisk", 161, 4.2, 15.0, -22),
        NaturalRow("Tianyu", "zm_yunxia", _M, "very high, as a child", 286, 3.8, 13.2, -21),
        NaturalRow("Zhiyuan", "zm_yunyang", _M, "lively, quick", 117, 5.0, 15.3, -24),
    )),
)  # fmt: skip
"""By language: tag, region, the voice of espeak-ng that tells lengths before there is sound, the voices."""
