"""XML that somebody sent, read without entities, document types from elsewhere, and the network."""

from __future__ import annotations

from typing import Any

from lxml import etree


def read_xml(data: bytes, recover: bool = False) -> Any:
    """The outermost element; None for what is no XML. With `recover`, what is malformed is read as far as it goes."""
    parser = etree.XMLParser(
        resolve_entities=False,
        no_network=True,
        load_dtd=False,
        huge_tree=False,
        recover=recover,
        remove_comments=True,
        remove_pis=True,
    )
    try:
        return etree.fromstring(data, parser)
    except etree.XMLSyntaxError:
        return None
