"""The base of everything a project is made of: checked once, frozen for good.

Fields that a newer version has written are kept as they are, so that a project can go back and forth.
"""

from typing import Any, Self

from pydantic import BaseModel, ConfigDict


class Value(BaseModel):
    model_config = ConfigDict(frozen=True, extra="allow")

    def changed(self, **fields: Any) -> Self:
        """The same value with other fields; what is new in it is checked when it is kept (store/projects.py).

        Raises:
            TypeError: it has no field of that name. Fields of newer versions are kept, so a misspelt one
                would be too.
        """
        unknown = fields.keys() - type(self).model_fields.keys()
        if unknown:
            raise TypeError(f"{type(self).__name__} has no field {', '.join(sorted(unknown))}")
        return self.model_copy(update=fields)
