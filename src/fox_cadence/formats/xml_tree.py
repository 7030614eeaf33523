"""XML from outside, read so that it can open nothing: no entities, no document type, no network."""

from typing import Any, TypeAlias

from fox_cadence.errors import InputError

Element: TypeAlias = Any
"""An element of lxml, which carries no types."""


def parse(text: str, what: str) -> Element:
    """The root of a document.

    Raises:
        InputError: it is not well-formed, or declares a document type (which could name files and addresses).
    """
    from lxml import etree

    parser = etree.XMLParser(
        resolve_entities=False,
        no_network=True,
        load_dtd=False,
        huge_tree=False,
        remove_comments=True,
        remove_pis=True,
    )
    try:
        root = etree.fromstring(text.encode("utf-8", "replace"), parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise InputError(f"it is no {what} that can be read ({str(error)[:120]})") from error
    if root.getroottree().docinfo.internalDTD is not None:
        raise InputError(f"it declares a document type, which {what} needs not; take the DOCTYPE out")
    return root


def name_of(element: Element) -> str:
    """The name of an element without its namespace; '' for what is none."""
    from lxml import etree

    return etree.QName(element).localname if isinstance(element.tag, str) else ""


def language_of(element: Element) -> str:
    return str(element.get("{http://www.w3.org/XML/1998/namespace}lang") or "")
