"""The hit test: what lies under a point or along a ray. It only reads."""
