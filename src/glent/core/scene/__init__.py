"""Nodes, layers, placement, and the spatial index that finds them."""
