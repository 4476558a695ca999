"""The description of the site's search for browsers (OpenSearch 1.1)."""

from __future__ import annotations

import xml.etree.ElementTree as ET

from mobbet.core.keys import PageKey
from mobbet.core.menu import SEARCH_PATH
from mobbet.publish import house_parts
from mobbet.publish.page_kind import PageKind
from mobbet.publish.pages.missing import OTHER
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page

KEY, PATH = PageKey("opensearch/"), "/opensearch.xml"
SPACE, LONGEST_NAME = "http://a9.com/-/spec/opensearch/1.1/", 16
TYPE = "application/opensearchdescription+xml"


def page(plan: Plan, key: PageKey) -> Page:
    house = plan.snapshot.house
    return Page(key, PATH, "opensearch", [house.name, house.home], None)


def _render(renderer: Renderer, page: Page) -> Rendered:
    house = renderer.house
    root = ET.Element("OpenSearchDescription", xmlns=SPACE)
    ET.SubElement(root, "ShortName").text = house.name[:LONGEST_NAME]
    ET.SubElement(root, "Description").text = f"Search {house.name}"
    ET.SubElement(root, "InputEncoding").text = "UTF-8"
    template = f"{renderer.absolute(SEARCH_PATH)}?q={{searchTerms}}"
    ET.SubElement(root, "Url", type="text/html", template=template)
    return Rendered(TYPE, ET.tostring(root, encoding="utf-8", xml_declaration=True))


KIND = PageKind(
    name="opensearch",
    page=page,
    recipes={"opensearch": _render},
    fixed=lambda: (KEY,),
    at=lambda plan, path: KEY if path == PATH else None,
    groups=(OTHER,),
    shows_of_house=house_parts.NONE,
)
