"""An XML schema of the captions we write as TTML, made from the recommendations and not from the writer."""

from functools import cache
from pathlib import Path

from lxml import etree


@cache
def _schema() -> etree.XMLSchema:
    return etree.XMLSchema(etree.parse(Path(__file__).with_name("ttml.xsd")))


def faults(data: bytes) -> list[str]:
    """What in a document is against the schema."""
    schema = _schema()
    return [] if schema.validate(etree.fromstring(data)) else [error.message for error in schema.error_log]
