"""A work of several pieces, a show or a book: what is said of it in every file of it."""

from pydantic import BaseModel, ConfigDict, Field


class Work(BaseModel):
    """What is said of a work, as it is written down. A picture stands for its sound files: `cover` is a file
    beside the docket, `cover_hash` one that is kept already (actions/covers.py); '' for none."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    title: str = Field(min_length=1, max_length=200)
    author: str = Field("", max_length=200)
    description: str = Field("", max_length=4000)
    category: str = Field("", max_length=80)
    cover: str = Field("", max_length=1000)
    cover_hash: str = Field("", pattern="^([0-9a-f]{64})?$")


class Part(Work):
    """A part of a work: the `number`th of `count`."""

    number: int
    count: int

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
