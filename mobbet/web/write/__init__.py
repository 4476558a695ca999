"""The writing room: the sheet, the docket, revisions, saved blocks."""
