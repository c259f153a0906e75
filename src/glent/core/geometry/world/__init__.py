"""Geometry in three dimensions: metres, right-handed, y up."""
