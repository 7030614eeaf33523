-- What each voice's takes have taught the length model.
CREATE TABLE length_model (
    voice_id TEXT PRIMARY KEY,
    document TEXT NOT NULL -- JSON of core.phoneme_model.VoiceModel
) STRICT;
