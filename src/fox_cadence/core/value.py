"""The base of everything a project is made of: checked once, frozen for good.

Fields that a newer version has written are kept as they are, so that a project can go back and forth.
"""

from pydantic import BaseModel, ConfigDict


class Value(BaseModel):
    model_config = ConfigDict(frozen=True, extra="allow")
