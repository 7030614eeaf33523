"""The errors of Fox Cadence. All derive from `FoxError`; each carries the words for the editor.

FoxError
├── InputError            something that was brought in or typed can't be used
├── NotFoundError         a project, clip, take or job that isn't there
├── ClashError            a change was based on a revision that is no longer the newest
├── EngineError           a voice engine died, hung or refused
├── MediaError            a media file could not be read or written
├── StorageError          the disk or the database refused: full, read-only, locked
└── CancelledError        the editor stopped the work

`EditError` stands beside them: the core raises it, where a change to a project can't be made.
"""


class FoxError(Exception):
    """Base of all errors that are shown to the editor as they are."""


class InputError(FoxError):
    """Input that can't be used. `place` says where in it, such as 'line 12'."""

    def __init__(self, message: str, place: str = "") -> None:
        super().__init__(f"{place}: {message}" if place else message)
        self.place = place


class NotFoundError(FoxError):
    """There is no such thing. Carries what was looked for."""


class ClashError(FoxError):
    """A change was based on a revision that is no longer the newest."""

    def __init__(self, based_on: int, newest: int) -> None:
        super().__init__(
            "This project was changed in another window. Your change was not made; the newest state is "
            "shown now."
        )
        self.based_on = based_on
        self.newest = newest


class EngineError(FoxError):
    """A voice engine died, hung or refused."""


class MediaError(FoxError):
    """A media file could not be read or written."""


class StorageError(FoxError):
    """The disk or the database refused. Nothing that was kept before is lost; says what to do."""


class CancelledError(FoxError):
    """The editor stopped the work."""


class EditError(ValueError):
    """An edit that can't be made; the text is for the editor and says what to do."""
