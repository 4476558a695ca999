"""The writing room: the sheet, the docket, revisions, kept blocks."""
