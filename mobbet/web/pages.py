"""Every page and part of the application, by the context that names its template; a test holds the two against each other."""

from __future__ import annotations

from mobbet.web import (
    contexts,
    contexts_comments,
    contexts_desk,
    contexts_docket,
    contexts_filing,
    contexts_library,
    contexts_preview,
    contexts_proof,
    contexts_readers,
    contexts_site,
    contexts_timetable,
)

MODULES = (contexts, contexts_comments, contexts_desk, contexts_docket, contexts_filing, contexts_library, contexts_preview, contexts_proof, contexts_readers, contexts_site, contexts_timetable)
PAGES: tuple[type, ...] = tuple(found for module in MODULES for found in vars(module).values() if isinstance(found, type) and hasattr(found, "TEMPLATE"))
