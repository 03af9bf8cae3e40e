"""Readers and writers of open formats, one a file."""
