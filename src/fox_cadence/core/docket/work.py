"""A work of several pieces, a show or a book: what is said of it in every file of it."""

from pydantic import BaseModel, ConfigDict, Field


class Work(BaseModel):
    """What is said of a work, as it is written down. `cover` is the file of a picture that stands for its
    sound files."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    title: str = Field(min_length=1, max_length=200)
    author: str = Field("", max_length=200)
    description: str = Field("", max_length=4000)
    category: str = Field("", max_length=80)
    cover: str = Field("", max_length=1000)


class Part(Work):
    """A part of a work: the `number`th of `count`; `cover_hash` is that of its cover as it is kept
    (actions/covers.py), '' for none."""

    number: int
    count: int
    cover_hash: str = ""

    @property
    def tags(self) -> dict[str, str]:
        """What its files say, by the names that libavformat gives them."""
        named = {
            "album": self.title,
            "artist": self.author,
            "album_artist": self.author,
            "comment": self.description,
            "genre": self.category,
            "track": f"{self.number}/{self.count}",
        }
        return {name: value for name, value in named.items() if value}
