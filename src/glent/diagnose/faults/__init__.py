"""The faults that a check looks for, by what has to do with them."""
