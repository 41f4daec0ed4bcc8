"""Making and changing a network document: pure functions from a document to the next one."""
