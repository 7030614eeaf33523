"""A work of several pieces, a show or a book: what is said of it in every file of it."""

from fox_cadence.core.value import Value


class Work(Value):
    """`number` of `count` is the place of the piece in it; 0 where it has none."""

    title: str
    author: str = ""
    description: str = ""
    category: str = ""
    number: int = 0
    count: int = 0

    @property
    def tags(self) -> dict[str, str]:
        """What files say of it, by the names that libavformat gives them."""
        place = f"{self.number}/{self.count}" if self.count else str(self.number or "")
        named = {
            "album": self.title,
            "artist": self.author,
            "album_artist": self.author,
            "comment": self.description,
            "genre": self.category,
            "track": place,
        }
        return {name: value for name, value in named.items() if value}
