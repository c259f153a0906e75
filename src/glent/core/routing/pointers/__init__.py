"""One pointer: what it does to nodes."""
