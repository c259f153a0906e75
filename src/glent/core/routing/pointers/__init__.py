"""One pointer: what each of its samples does to nodes."""
