"""One module per outside system; each needs its own extra."""
