"""Affine transforms and hit shapes: pure functions and small value types."""
