"""The base of everything a project is made of: checked once, frozen for good."""

from pydantic import BaseModel, ConfigDict


class Value(BaseModel):
    model_config = ConfigDict(frozen=True)
