"""The length models of voices."""

from fox_cadence.core.phoneme_model import VoiceModel
from fox_cadence.store.database import Database


class LengthModels:
    def __init__(self, database: Database) -> None:
        self._database = database

    def voice_model(self, voice_id: str) -> VoiceModel | None:
        """What was learnt of a voice, None where nothing was."""
        with self._database.read() as db:
            row = db.execute("SELECT document FROM length_model WHERE voice_id = ?", (voice_id,)).fetchone()
        return VoiceModel.model_validate_json(row["document"]) if row else None

    def keep_voice_model(self, voice_id: str, model: VoiceModel) -> None:
        """Keep what was learnt of a voice in place of what was known."""
        with self._database.write() as db:
            db.execute(
                "INSERT OR REPLACE INTO length_model VALUES (?, ?)", (voice_id, model.model_dump_json())
            )
