"""The command line: a table of commands (`parser.py`), and a module for each with its arguments and what it does.

A command's module imports what it works with inside its functions, so that help and usage errors load none of it.
"""
